import { emailTraits } from '@/core/clean/email-traits'
import { fold } from '@/core/clean/fold'
import { generationOf } from '@/core/clean/name'
import { isMobile } from '@/core/clean/phone'
import type { PersonRow } from '@/core/clean/person-row'
import { organisationKey } from '@/core/clean/organisation'
import { comparablePostal } from '@/core/clean/postal'
import type { Own } from '@/core/match/against'
import type { Comparable } from '@/core/match/compare'
import { weightsOf } from '@/core/match/estimate'
import { KnownRecords } from '@/core/match/known-records'
import { USUAL_WEIGHTS } from '@/core/match/usual-weights'
import type { Knex } from '@/db/connection'
import type { KnownPerson } from '@/db/intake/intake-store'
import { readKnown } from '@/db/intake/known-rows'
import { countPeopleLive } from '@/db/directory/person-rows'
import { lastWeights } from '@/db/directory/likenesses'

/** A search among fewer people tells too little of how records agree to go by what it found. */
const ENOUGH = 2000

/** Everybody in the directory, to find for rows who they may be, by the weights that the last search for doubles found. */
export async function knownRecords(trx: Knex): Promise<KnownRecords> {
  const search = await lastWeights(trx, ENOUGH)
  const rows = await countPeopleLive(trx)
  const known = new KnownRecords(weightsOf(search?.weights ?? USUAL_WEIGHTS), rows[0].expected + 1024)
  await readKnown(trx, known, folded)
  known.settle()
  remembered.clear()
  return known
}

/** Names and places come again and again. */
const remembered = new Map<string, string>()
function folded(text: string): string {
  let known = remembered.get(text)
  if (known === undefined) remembered.set(text, (known = fold(text)))
  return known
}

/** What a row is compared by. */
export function comparableRow(row: PersonRow): Comparable {
  return {
    given: fold(row.name.given),
    ...generationOf(fold(row.name.family)),
    organisation: row.organisation ? organisationKey(row.organisation) : '',
    street: streetOf(comparablePostal(row.postal)),
    postcode: fold(row.postal.postcode ?? ''),
    town: fold(row.postal.town ?? ''),
    emails: row.emails.filter((e) => e.usable).map((e) => e.normal),
    phones: row.phones.filter((p) => p.usable).map((p) => p.normal),
  }
}

/** What somebody known is compared by. */
export function comparablePerson(person: KnownPerson): Comparable {
  return {
    given: fold(person.given),
    ...generationOf(fold(person.familyName)),
    organisation: person.organisation ?? '',
    street: streetOf(person.address),
    postcode: fold(person.postcode ?? ''),
    town: fold(person.town ?? ''),
    emails: person.emails,
    phones: person.phones,
  }
}

/** The same with what is a person's own among it. */
export const withOwn = (of: Comparable): Own => ({
  ...of,
  ownEmails: of.emails.filter((email) => !emailTraits(email).roleAccount),
  mobiles: of.phones.filter(isMobile),
})

const streetOf = (addressKey: string | null): string => (addressKey ?? '').split('|')[0]
