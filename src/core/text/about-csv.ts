/** What is known of some CSV files that leave together. `heading` is the first row of a file as it stands. */
export interface CsvFiles {
  title: string
  description: string
  issued: Date
  by: string
  files: { name: string; title: string; rows: number; bytes?: number; sha256?: string; heading: string[] }[]
}

/** Columns whose values are no text; every other column is. */
const NUMBERS = new Set(['Record number'])

/**
 * What CSV files are, for whoever receives them: a table group with where they come from, their columns, rows and, where they are
 * known, checksums. Written as JSON by “Metadata Vocabulary for Tabular Data”, W3C Recommendation of 17 December 2015, with common
 * properties of Dublin Core terms (`dc`) and schema.org (`schema`), which section 5.8 and its list of prefixes allow.
 */
export function aboutCsv({ title, description, issued, by, files }: CsvFiles) {
  return {
    '@context': ['http://www.w3.org/ns/csvw', { '@language': 'en' }],
    'dc:title': title,
    'dc:description': description,
    'dc:issued': { '@value': issued.toISOString(), '@type': 'dateTime' },
    'dc:creator': by,
    dialect: { encoding: 'utf-8', header: true, delimiter: ',', lineTerminators: ['\r\n'], doubleQuote: true },
    tables: files.map(({ name, title, rows, bytes, sha256, heading }) => ({
      url: name,
      'dc:title': `${title}, ${rows} ${rows === 1 ? 'row' : 'rows'}`,
      'dc:extent': rows,
      ...(bytes === undefined ? {} : { 'schema:contentSize': bytes }),
      ...(sha256 === undefined ? {} : { 'schema:sha256': sha256 }),
      tableSchema: {
        columns: heading.map((title) => ({
          name: title.toLowerCase().replace(/[^a-z0-9]+/g, '_'),
          titles: title,
          datatype: NUMBERS.has(title) ? 'integer' : 'string',
        })),
      },
    })),
  }
}

/** The same as a file beside them. */
export const aboutFile = (name: string, files: CsvFiles): { name: string; bytes: Buffer } => ({
  name,
  bytes: Buffer.from(`${JSON.stringify(aboutCsv(files), null, 2)}\n`),
})
