/** What is known of the files of a round. `heading` is the first row of the file as it stands. */
export interface ReleasedFiles {
  list: string
  round: number
  edition: number
  releasedAt: Date
  by: string
  files: { name: string; rows: number; bytes: number; sha256: string; channel: string; heading: string[] }[]
}

/** Columns whose values are no text; every other column is. */
const NUMBERS = new Set(['Record number'])

/**
 * What the files of a round are, for whoever receives them: a table group of CSV files with where they come from, their columns,
 * rows and checksums. Written as JSON by “Metadata Vocabulary for Tabular Data”, W3C Recommendation of 17 December 2015, with common
 * properties of Dublin Core terms (`dc`) and schema.org (`schema`), which section 5.8 and its list of prefixes allow.
 */
export function aboutFiles({ list, round, edition, releasedAt, by, files }: ReleasedFiles) {
  return {
    '@context': ['http://www.w3.org/ns/csvw', { '@language': 'en' }],
    'dc:title': `Round ${round} of ${list}`,
    'dc:description': `Who was released for contact in round ${round} of the list “${list}”, edition ${edition}, a file a channel.`,
    'dc:issued': { '@value': releasedAt.toISOString(), '@type': 'dateTime' },
    'dc:creator': by,
    dialect: { encoding: 'utf-8', header: true, delimiter: ',', lineTerminators: ['\r\n'], doubleQuote: true },
    tables: files.map(({ name, rows, bytes, sha256, channel, heading }) => ({
      url: name,
      'dc:title': `${channel}, ${rows} ${rows === 1 ? 'row' : 'rows'}`,
      'dc:extent': rows,
      'schema:contentSize': bytes,
      'schema:sha256': sha256,
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
