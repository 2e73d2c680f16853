import type { Channel } from '@/core/records/channels'
import type { Reason } from '@/core/records/suppression'
import type { Knex } from '@/db/connection'
import { NO_CHANNEL } from './enquiry-rows'

/** Things found that may still be paid for: what is open, and what a list left out, which may be taken back in. */
export async function itemsToTry(
  trx: Knex,
  id: number,
): Promise<
  { n: number; data: { title: string; has: Channel[]; found?: { kind: string; subKind: string; district: string; postcode: string } } }[]
> {
  return await trx('enquiry_item')
    .where({ enquiry_id: id })
    .whereRaw(`(state = 'open' or (state = 'left out' and why <> ?))`, [NO_CHANNEL])
    .orderBy('n')
    .select('n', 'data')
}

/** Leaves out of those that may be paid for all but some, each for its own reason. */
export async function leaveOutItems(trx: Knex, id: number, keep: readonly number[], why: [n: number, why: string][]): Promise<void> {
  await trx.raw(
    `update enquiry_item i set state = 'left out', why = r.why from jsonb_to_recordset(?::jsonb) as r(n int, why text)
     where i.enquiry_id = ? and i.n = r.n and (i.state = 'open' or (i.state = 'left out' and i.why <> ?))`,
    [JSON.stringify(why.map(([n, text]) => ({ n, why: text }))), id, NO_CHANNEL],
  )
  await trx('enquiry_item')
    .where({ enquiry_id: id, state: 'left out' })
    .whereRaw('n = any(?::int[])', [[...keep]])
    .update({ state: 'open', why: null })
}

/** Suppressions in force of organisations, by their key in hexadecimal. */
export async function suppressionsOfKeys(
  trx: Knex,
  keys: Buffer[],
  at: Date,
): Promise<{ key: string; id: number; reason: Reason; channels: Channel[]; since: Date; until: Date | null }[]> {
  return await trx('suppression_key as k')
    .join('suppression_standing as s', 's.id', 'k.suppression_id')
    .whereRaw('k.key = any(?::bytea[])', [keys])
    .where('s.since', '<=', at)
    .whereRaw('(s.until is null or s.until > ?)', [at])
    .select(trx.raw(`encode(k.key, 'hex') as key`), 's.id', 's.reason', 's.channels', 's.since', 's.until')
}
