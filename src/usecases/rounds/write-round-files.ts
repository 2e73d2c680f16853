import { notesByPerson } from '@/usecases/directory/notes-in-files'
import { notesOfListed } from '@/db/directory/note-rows'
import type { Knex } from '@/db/connection'
import { writeCsv } from '@/usecases/directory/write-csv'
import { CARD, insertFile, readFileRows } from '@/db/rounds/frozen-round'
import { allOpeners } from '@/db/rounds/opener-rows'
import { CHANNELS, type Channel } from '@/core/records/channels'

const COLUMNS: Record<Channel, { heading: string[]; parts: string[] }> = {
  email: { heading: ['Email'], parts: ['value'] },
  phone: { heading: ['Phone'], parts: ['value'] },
  post: { heading: ['Street', 'Town', 'Postcode'], parts: ['street', 'town', 'postcode'] },
  direct: { heading: ['Direct message', 'Way'], parts: ['value', 'way'] },
}

/** Makes the file of each channel of a round; with `openers` it has a column for them. */
export async function writeFiles(trx: Knex, round: number, list: string, number: number, openers: boolean): Promise<void> {
  const slug =
    list
      .normalize('NFKD')
      .toLowerCase()
      .replace(/\p{M}/gu, '')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'list'
  const notes = notesByPerson(await notesOfListed(trx))
  const openerOf = openers ? await allOpeners(trx, round) : null
  for (const channel of CHANNELS) {
    const { heading, parts } = COLUMNS[channel]
    const cells: string[][] = []
    await readFileRows(trx, {
      values: ['m.person_id::text', ...CARD.map((of) => `m.card ->> '${of}'`), ...parts.map((of) => `c.sent_to ->> '${of}'`)].join(', '),
      parts,
      round,
      channel,
      cells,
    })
    const bytes = await writeCsv(
      ['Record number', 'Name', 'Given name', 'Family name', 'Role', 'Organisation', ...heading, ...(openerOf ? ['Opener'] : []), 'Notes'],
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
