import { createHash } from 'node:crypto'
import { type Channel, CHANNELS } from '@/core/records/channels'
import { EXTRA_COLUMNS, type ExtraColumn } from '@/core/rounds/file-layout'
import type { Knex } from '@/db/connection'
import { copyRows } from '@/db/copy-rows'
import { CARD } from '@/db/rounds/frozen-round'

/** Inserts a file of a round with its checksum. */
export async function insertFile(
  trx: Knex,
  file: { round_id: number; channel: Channel; name: string; bytes: Buffer<ArrayBufferLike>; rows: number },
  bytes: Buffer<ArrayBufferLike>,
) {
  return await trx('round_file').insert({ ...file, sha256: createHash('sha256').update(bytes).digest('hex') })
}

/** Files in the order of their channels everywhere else. */
const IN_ORDER = `array_position(array[${CHANNELS.map((channel) => `'${channel}'`).join(', ')}], channel)`

/** Returns the files of a round in the order of the channels, with what each has beyond the usual columns. */
export async function fileRows(
  trx: Knex,
  id: number,
): Promise<{ channel: Channel; name: string; rows: number; sha256: string; withdrawnAt: Date | null; extra: ExtraColumn[] }[]> {
  const rows = await trx('round_file')
    .where({ round_id: id })
    .orderByRaw(IN_ORDER)
    .select(
      'channel',
      'name',
      'rows',
      'sha256',
      'withdrawn_at as withdrawnAt',
      trx.raw(`split_part(encode(substring(bytes from 1 for 400), 'escape'), chr(13), 1) as head`),
    )
  return rows.map(({ head, ...file }) => ({ ...file, extra: EXTRA_COLUMNS.filter((own) => head.includes(`,${own},`)) }))
}

/** Returns a file of a round by its channel, with its bytes; `withdrawn_at` where an erasure took it back. */
export async function fileRow(trx: Knex, id: number, channel: string) {
  return await trx('round_file').where({ round_id: id, channel }).first('name', 'bytes', 'sha256', 'withdrawn_at')
}

/** The files of a round with their size and their first row, which is in the first bytes. */
export async function fileHeads(
  trx: Knex,
  id: number,
): Promise<{ channel: Channel; name: string; rows: number; sha256: string; bytes: number; head: Buffer }[]> {
  return await trx('round_file')
    .where({ round_id: id })
    .orderByRaw(IN_ORDER)
    .select('channel', 'name', 'rows', 'sha256', trx.raw('length(bytes) as bytes'), trx.raw('substring(bytes from 1 for 2000) as head'))
}

/** Reads the rows of a file in the order of the list, from the database's own copy format. */
export async function readFileRows(
  trx: Knex,
  { values, parts, round, channel, cells }: { values: string; parts: string[]; round: number; channel: string; cells: string[][] },
) {
  return await copyRows(
    trx,
    `select ${values}
       from round_channel c join round_member m using (round_id, person_id) join listed l using (person_id)
         left join contact_to_come w on w.round_id = c.round_id and w.person_id = c.person_id and w.channel = c.channel
       where c.round_id = ${Number(round)} and c.channel = '${channel}' and c.closed_by is null order by l.place`,
    (row) => cells.push(Array.from({ length: 2 + CARD.length + parts.length }, () => row.text() ?? '')),
  )
}
