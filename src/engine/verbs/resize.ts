import { number, object, type InferType } from 'yup'
import { type NewLine, type Proposal, resizing } from '@/core/lists/resizing'
import { picked, type Sources } from '@/engine/sources'
import { moment, pageOfLines, screenName } from './parts'
import { verb } from './verb'

const schema = object({
  ...screenName,
  ...pageOfLines,
  moment: moment(),
  wanted: object({ least: number().min(0).required(), most: number().min(0).required() }).required(),
})
export type ResizeRequest = InferType<typeof schema>

export interface ResizeAnswer {
  proposals: Proposal[]
}

/** Lines that would bring a list of too many nearer to the size that is wanted. */
async function answerResize(sources: Sources, request: ResizeRequest): Promise<ResizeAnswer> {
  const work = await picked(sources, [request])
  const { lines, named, moment: asked, wanted } = request
  const { directory, answers } = sources.model
  const withLine = (line: NewLine) => work({ lines: [...lines, { ...line, id: 'proposed' }], named }, asked).on.count()
  return { proposals: resizing(wanted, lines, work(request, asked).on, { directory, answers, moment: asked }, withLine) }
}

export const resize = verb(schema, answerResize)
