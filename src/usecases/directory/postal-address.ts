import { type PostalParts, whyNotPostable } from '@/core/clean/postal'
import type { Knex } from '@/db/connection'
import { keysOf } from '@/db/key'

export const postalText = (p: PostalParts): string =>
  [p.street, p.town, p.postcode].filter((part) => part !== null && part !== '').join(', ')

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
    ...keysOf({ postal }),
    usable: why === null,
    why_unusable: why,
    position: 0,
  }
}

/** Where letters go to somebody: their own address, or their organisation's while theirs is not whole. */
export function postalFor(own: PostalParts, organisation: PostalParts | null): PostalParts {
  return whyNotPostable(own) === null || organisation === null || whyNotPostable(organisation) !== null ? own : organisation
}

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

/**
 * The parts of an address that the ledger has as a text: those of the first of some addresses that reads so, else the text taken
 * apart at its commas, the last piece with a digit in it being the postcode.
 */
export function postalOfText(text: string, known: readonly PostalParts[]): PostalParts {
  const same = known.find((postal) => postalText(postal) === text)
  if (same) return { street: same.street, town: same.town, postcode: same.postcode }
  const pieces = text.split(', ')
  const postcode = pieces.length > 1 && /\d/.test(pieces[pieces.length - 1]) ? (pieces.pop() as string) : null
  const town = pieces.length > 1 ? (pieces.pop() as string) : null
  return { street: pieces.join(', '), town, postcode }
}
