/** Kinds of files that rows are read from; what each holds is in docs/formats.md. */
export type FormatName = 'csv' | 'xlsx' | 'jsonl' | 'geojson' | 'vcard'

/** How a file is read. Kept with its batch, so that it is read the same way every time. */
export interface Reading {
  format: FormatName
  /** The file within an archive. */
  entry?: string
  /** Of text: its encoding, and for CSV what splits its columns. */
  encoding?: string
  delimiter?: string
  /** The sheet of a workbook. */
  sheet?: string
  /** The row the titles of the columns stand in, from 1; 0 where there are none. What is above it is left out. */
  headerRow: number
  /** How numbers and dates are written: decimals behind a comma rather than a point, the month before the day. */
  decimal?: '.' | ','
  monthFirst?: boolean
  /** Of GeoJSON: positions stand latitude first, against the standard. */
  swapped?: boolean
}

/** What else of a file could be read. */
export interface ReadingChoices {
  entries?: string[]
  sheets?: string[]
  /** How many points only make sense with their two coordinates swapped. */
  swappable?: number
}

const NAME = { csv: 'CSV', xlsx: 'workbook', jsonl: 'JSON Lines', geojson: 'GeoJSON', vcard: 'vCards' } as const

/** How a file is read, in words. */
export function readingText({ format, entry, encoding, delimiter, sheet, headerRow, swapped, decimal, monthFirst }: Reading): string {
  return [
    entry && `${entry} in an archive`,
    sheet ? `${NAME[format]}, sheet “${sheet}”` : NAME[format],
    encoding,
    swapped && 'latitude and longitude swapped',
    delimiter && `columns split by ${delimiter === '\t' ? 'tabs' : `“${delimiter}”`}`,
    decimal === ',' && 'decimals behind a comma',
    monthFirst && 'dates with the month first',
    (format === 'csv' || format === 'xlsx') &&
      (headerRow === 0
        ? 'no titles found'
        : headerRow === 1
          ? 'first row taken as the titles'
          : `titles in row ${headerRow}, what is above it left out`),
  ]
    .filter(Boolean)
    .join(', ')
}
