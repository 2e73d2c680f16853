import { notesByPerson } from '@/usecases/directory/notes-in-files'
import { notesOfListed } from '@/db/directory/note-rows'
import type { Knex } from '@/db/connection'
import { writeCsv } from '@/formats/write-csv'
import { CARD } from '@/db/rounds/frozen-round'
import { insertFile, readFileRows } from '@/db/rounds/round-files'
import { slugOf } from '@/core/text/slug'
import { allOpeners } from '@/db/rounds/opener-rows'
import { CHANNELS } from '@/core/records/channels'
import { dateText } from '@/core/text/written'
import { CHANNEL_COLUMNS, type ExtraColumn, fileHeading } from '@/core/rounds/file-layout'

/** Makes the file of each channel of a round. `extra` are the columns they have besides. */
export async function writeFiles(
  trx: Knex,
  { id: round, list, called, extra }: { id: number; list: string; called: string; extra: readonly ExtraColumn[] },
): Promise<void> {
  const slug = slugOf(list, 'list')
  const notes = notesByPerson(await notesOfListed(trx))
  const openerOf = extra.includes('Opener') ? await allOpeners(trx, round) : null
  for (const channel of CHANNELS) {
    const { parts } = CHANNEL_COLUMNS[channel]
    const cells: string[][] = []
    await readFileRows(trx, {
      values: [
        'm.person_id::text',
        ...CARD.map((of) => `m.card ->> '${of}'`),
        ...parts.map((of) => `c.sent_to ->> '${of}'`),
        `to_char(w.due, 'YYYY-MM-DD')`,
      ].join(', '),
      parts,
      round,
      channel,
      cells,
    })
    const bytes = await writeCsv(
      fileHeading(channel, extra),
      cells.map((row) => {
        const person = Number(row[0])
        return [
          ...row.slice(0, -1),
          ...(openerOf ? [openerOf.get(person) ?? ''] : []),
          ...(extra.includes('Planned week') ? [planned(row[row.length - 1], 'from ')] : []),
          ...(extra.includes('Planned day') ? [planned(row[row.length - 1], '')] : []),
          notes.get(person) ?? '',
        ]
      }),
    )
    const file = {
      round_id: round,
      channel,
      name: `${slug}-${slugOf(`round ${called}`, 'round')}-${channel}.csv`,
      bytes,
      rows: cells.length,
    }
    await insertFile(trx, file, bytes)
  }
}

const planned = (due: string, before: string): string => (due === '' ? '' : `${before}${dateText(due)}`)
