import type { Knex } from '@/db/connection'
import { type EntryKind, type NewEntry, writeEntries } from '@/db/ledger'
import { reopenByContacts } from '@/db/rounds/contacts-to-come'
import { type LetterRowOf, liveRoots, subjectsOf } from '@/db/rounds/premises-round-rows'
import type { RoundRow } from '@/db/rounds/round-rows'
import { now } from '@/runtime/clock'
import { recordContacts } from '@/usecases/contact/contact-people'
import type { Actor } from '@/usecases/team/actor'

/** Entries of one kind for the premises of some letters of a round. */
export const entriesOfPremises = (
  actor: Actor,
  round: Pick<RoundRow, 'id' | 'list_id'>,
  premises: readonly number[],
  of: { kind: EntryKind; at: Date; result?: string },
): NewEntry[] =>
  premises.map((id) => ({ premises: id, ...of, actor: actor.id, channel: 'post' as const, round: round.id, list: round.list_id }))

/**
 * Records letters: with the premises each is about, and as contacts of whom it names as far as they are in the directory. Gives the entries of
 * each letter. Runs in the caller's transaction.
 */
export async function writeLetterContacts(
  trx: Knex,
  actor: Actor,
  round: RoundRow,
  letters: readonly LetterRowOf[],
  { at, dayOnly, result }: { at: Date; dayOnly: boolean; result: string },
): Promise<{ number: number; entries: number[] }[]> {
  const roots = await liveRoots(
    trx,
    letters.flatMap(({ people }) => people),
  )
  const named = letters.flatMap(({ number, people }) =>
    [...new Set(people.flatMap((id) => roots.get(id) ?? []))].map((person) => ({ number, person })),
  )
  const about = letters.flatMap(({ number, premises }) => premises.map((id) => ({ number, id })))
  const ofPeople = await recordContacts(
    trx,
    named.map(({ person }) => ({ person, at, dayOnly, channel: 'post', result, note: null, actor: actor.id })),
  )
  const ofPremises = await writeEntries(
    trx,
    entriesOfPremises(
      actor,
      round,
      about.map(({ id }) => id),
      { kind: 'letter', at, result },
    ),
    now(),
  )
  const entries = new Map<number, number[]>(letters.map(({ number }) => [number, []]))
  for (const [i, { number }] of named.entries()) entries.get(number)?.push(ofPeople[i])
  for (const [i, { number }] of about.entries()) entries.get(number)?.push(ofPremises[i])
  return [...entries].map(([number, own]) => ({ number, entries: own }))
}

/** Reverses entries of letters by entries; contacts to come that they made good are to come again. Runs in the caller's transaction. */
export async function reverseLetterContacts(trx: Knex, actor: Actor, entries: readonly number[], why: string): Promise<void> {
  const subjects = await subjectsOf(trx, entries)
  await writeEntries(
    trx,
    subjects.map(({ id, person_id, premises_id }) => ({
      ...(person_id === null ? {} : { person: person_id }),
      ...(premises_id === null ? {} : { premises: premises_id }),
      kind: 'reversed' as const,
      at: now(),
      actor: actor.id,
      reverses: id,
      note: why,
    })),
    now(),
  )
  await reopenByContacts(
    trx,
    subjects.map(({ id }) => id),
    now(),
  )
}
