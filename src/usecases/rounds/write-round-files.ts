import { notesByPerson } from '@/usecases/directory/notes-in-files'
import { notesOfListed } from '@/db/directory/note-rows'
import type { Knex } from '@/db/connection'
import { writeCsv } from '@/formats/write-csv'
import { CARD, insertFile, readFileRows } from '@/db/rounds/frozen-round'
import { slugOf } from '@/core/text/slug'
import { allOpeners } from '@/db/rounds/opener-rows'
import { CHANNELS } from '@/core/records/channels'
import { CHANNEL_COLUMNS, fileHeading } from '@/core/rounds/file-layout'

/** Makes the file of each channel of a round; with `openers` it has a column for them. */
export async function writeFiles(trx: Knex, round: number, list: string, number: number, openers: boolean): Promise<void> {
  const slug = slugOf(list, 'list')
  const notes = notesByPerson(await notesOfListed(trx))
  const openerOf = openers ? await allOpeners(trx, round) : null
  for (const channel of CHANNELS) {
    const { parts } = CHANNEL_COLUMNS[channel]
    const cells: string[][] = []
    await readFileRows(trx, {
      values: ['m.person_id::text', ...CARD.map((of) => `m.card ->> '${of}'`), ...parts.map((of) => `c.sent_to ->> '${of}'`)].join(', '),
      parts,
      round,
      channel,
      cells,
    })
    const bytes = await writeCsv(
      fileHeading(channel, openerOf !== null),
      cells.map((row) => [...row, ...(openerOf ? [openerOf.get(Number(row[0])) ?? ''] : []), notes.get(Number(row[0])) ?? '']),
    )
    const file = {
      round_id: round,
      channel,
      name: `${slug}-round-${number}-${channel}.csv`,
      bytes,
      rows: cells.length,
    }
    await insertFile(trx, file, bytes)
  }
}
