import { type PostalParts, whyNotPostable } from '@/core/clean/postal'
import { postalText } from '@/db/directory/postal-rows'

/** Where letters go to somebody: their own address, or their organisation's while theirs is not whole. */
export function postalFor(own: PostalParts, organisation: PostalParts | null): PostalParts {
  return whyNotPostable(own) === null || organisation === null || whyNotPostable(organisation) !== null ? own : organisation
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
