import { array, object, string } from 'yup'
import { FILE_FORMATS, type FileFormat, type FileLayout } from '@/core/rounds/file-layout'
import { Refused } from '@/usecases/team/actor'

const schema = object({
  format: string()
    .oneOf(Object.keys(FILE_FORMATS) as FileFormat[], 'There is no such format.')
    .required('Choose a format.'),
  columns: array(
    object({
      of: string().max(60).required(),
      heading: string().trim().max(80, 'A heading holds at most 80 characters.').required('Every column needs a heading.'),
    }).required(),
  )
    .max(30)
    .required('Choose the columns.'),
})

/** A layout as it was handed in, as an object or as JSON. Throws where it is none. */
export function layoutMeant(raw: unknown): FileLayout {
  let given = raw
  if (typeof raw === 'string')
    try {
      given = JSON.parse(raw)
    } catch {
      throw new Refused('The layout of the file cannot be read. Nothing was downloaded.')
    }
  return schema.validateSync(given, { abortEarly: false, stripUnknown: true })
}
