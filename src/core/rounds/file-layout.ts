import type { Channel } from '../records/channels'

/** The formats in which the files of a round are handed over. */
export const FILE_FORMATS = {
  csv: { title: 'CSV, for anything', ending: 'csv' },
  xlsx: { title: 'Excel workbook', ending: 'xlsx' },
  jsonl: { title: 'JSON Lines, for programs', ending: 'jsonl' },
  vcard: { title: 'vCard, for address books and phones', ending: 'vcf' },
} as const
export type FileFormat = keyof typeof FILE_FORMATS

/** How a file of a round is laid out for whoever receives it: its format, and its columns in their order with the headings they want. */
export interface FileLayout {
  format: FileFormat
  columns: { of: string; heading: string }[]
}

/** A layout that was saved under a name, for one channel. */
export interface SavedLayout extends FileLayout {
  id: number
  channel: Channel
  name: string
}

const PEOPLE = ['Record number', 'Name', 'Given name', 'Family name', 'Role', 'Organisation']

/** The columns of the file of each channel that say where the contact goes, with the parts of what is frozen. */
export const CHANNEL_COLUMNS: Record<Channel, { heading: string[]; parts: string[] }> = {
  email: { heading: ['Email'], parts: ['value'] },
  phone: { heading: ['Phone'], parts: ['value'] },
  post: { heading: ['Street', 'Town', 'Postcode'], parts: ['street', 'town', 'postcode'] },
  direct: { heading: ['Direct message', 'Way'], parts: ['value', 'way'] },
}

/** Columns that some files have besides: where the list takes openers from changes, where the round is planned by weeks or works in steps. */
export const EXTRA_COLUMNS = ['Opener', 'Planned week', 'Planned day'] as const
export type ExtraColumn = (typeof EXTRA_COLUMNS)[number]

/** The headings of a released file, in their order. */
export const fileHeading = (channel: Channel, extra: readonly ExtraColumn[]): string[] => [
  ...PEOPLE,
  ...CHANNEL_COLUMNS[channel].heading,
  ...EXTRA_COLUMNS.filter((own) => extra.includes(own)),
  'Notes',
]

/** What is wrong with a layout for a file of these headings; null where nothing is. */
export function layoutTrouble({ columns }: FileLayout, heading: readonly string[]): string | null {
  if (columns.length === 0) return 'Choose at least one column.'
  const headings = columns.map((column) => column.heading.trim())
  if (headings.includes('')) return 'Every column needs a heading.'
  const twice = headings.find((own, i) => headings.indexOf(own) !== i)
  if (twice !== undefined) return `Two columns have the heading “${twice}”.`
  const unknown = columns.find(({ of }) => !heading.includes(of))
  if (unknown) return `The file has no column “${unknown.of}”.`
  return null
}

/** The rows of a file with the columns of a layout. */
export function laidOut({ columns }: FileLayout, heading: readonly string[], rows: readonly string[][]): string[][] {
  const places = columns.map(({ of }) => heading.indexOf(of))
  return rows.map((row) => places.map((place) => row[place] ?? ''))
}
