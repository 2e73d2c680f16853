import { type PostalParts, whyNotPostable } from '@/core/clean/postal'
import type { Knex } from '@/db/connection'
import { keysOf } from '@/db/key'

/** The postal address a person has in the table of addresses now, in its parts; null where there is none. */
export async function postOf(trx: Knex, person: number): Promise<PostalParts | null> {
  return (await trx('address').where({ person_id: person, channel: 'post' }).first('parts'))?.parts ?? null
}

/** Makes this the postal address of a person in place of the one they had. Runs in the caller's transaction. */
export async function writePost(trx: Knex, person: number, postal: PostalParts | null, batch: number | null = null): Promise<void> {
  await trx('address').where({ person_id: person, channel: 'post' }).delete()
  const row = postal && postRow(postal)
  if (row) await trx('address').insert({ ...row, parts: JSON.stringify(row.parts), person_id: person, batch_id: batch })
}

/** A postal address as it stands in the table of addresses, but for whose it is; null where there is nothing of one. */
export function postRow(postal: PostalParts) {
  const text = postalText(postal)
  if (!text) return null
  const why = whyNotPostable(postal)
  const { street, town, postcode } = postal
  return {
    channel: 'post' as const,
    raw: text,
    value: text,
    parts: { street, town, postcode },
    country: null,
    ...keysOf({ postal }),
    usable: why === null,
    why_unusable: why,
    position: 0,
  }
}

/** Returns a postal address as one line, without the parts that are missing. */
export const postalText = (p: PostalParts): string =>
  [p.street, p.town, p.postcode].filter((part) => part !== null && part !== '').join(', ')
