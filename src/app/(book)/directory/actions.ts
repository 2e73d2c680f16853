'use server'

import { revalidatePath } from 'next/cache'
import { array, boolean, mixed, number, object, string } from 'yup'
import { erasePerson } from '@/usecases/directory/erase-person'
import { mergePeople } from '@/usecases/directory/merge-people'
import { setNumber } from '@/usecases/team/number-settings'
import { recordContact } from '@/usecases/contact/record-contact'
import type { Target } from '@/usecases/screening/suppression-index'
import { takeBackMerge } from '@/usecases/directory/take-back-merge'
import { act } from '@/app/requests/answer'
import { free, ref, typed } from '@/app/requests/asked'
import { addNote } from '@/usecases/contact/add-note'
import { setCustom } from '@/usecases/directory/set-custom'
import { startSearch } from '@/usecases/directory/start-search'
import { decidePair } from '@/usecases/directory/decide-pair'
import { reopenPair } from '@/usecases/directory/reopen-pair'
import { liftGone } from '@/usecases/screening/lift-gone'
import { takeBackLifting } from '@/usecases/screening/take-back-lifting'
import { suppress, suppressTexts } from '@/usecases/screening/suppress'
import { liftSuppression } from '@/usecases/screening/lift-suppression'

const pageOf = (person: unknown) => revalidatePath(`/directory/people/${Number(person)}`)

export async function contact(person: number, input: unknown) {
  const result = await act([ref(), free()], [person, input], recordContact)
  pageOf(person)
  return result
}

export async function note(person: number, text: string) {
  const result = await act([ref(), typed(10_000)], [person, text], addNote)
  pageOf(person)
  return result
}

export async function setField(person: number, field: number, value: string) {
  const result = await act([ref(), ref(), typed(10_000)], [person, field, value], setCustom)
  pageOf(person)
  return result
}

export async function suppressPerson(person: number, input: unknown) {
  const result = await act([ref(), free()], [person, input], (who, id, given) =>
    suppress(who, (given as { household?: unknown } | null)?.household === true ? { household: id } : { person: id }, given),
  )
  pageOf(person)
  return result
}

type Typed = Exclude<Target, { person: number } | { household: number }>
const POSTAL = object({ street: typed(), town: typed(), postcode: typed() })
const TARGET = object({
  text: string().strict().max(1000).optional(),
  postal: POSTAL.optional().default(undefined),
  organisation: ref().optional(),
  branches: boolean().optional(),
})
  .test(
    'whole',
    'say what is to be suppressed',
    (of) => [of?.text, of?.postal, of?.organisation].filter((part) => part !== undefined).length === 1,
  )
  .required()

/** What a form says is to be suppressed: what was typed, a postal address, or an organisation. */
export async function suppressTarget(target: Typed, input: unknown) {
  const result = await act([TARGET, free()], [target, input], (who, { text, postal, organisation, branches }, given) =>
    suppress(who, (text !== undefined ? { text } : postal ? { postal } : { organisation, branches }) as Typed, given),
  )
  revalidatePath('/screening')
  revalidatePath('/directory/organisations/[id]', 'page')
  return result
}

/** Several emails, phones or domains, as they were typed or pasted. */
export async function suppressLines(texts: string[], input: unknown) {
  const result = await act([array(string().strict().max(1000).defined()).max(10_000).required(), free()], [texts, input], suppressTexts)
  revalidatePath('/screening')
  return result
}

/** Erases a person for good. */
export async function erase(person: number) {
  const result = await act([ref()], [person], erasePerson)
  pageOf(person)
  revalidatePath('/directory')
  return result
}

export async function merge(keep: number, other: number) {
  const result = await act([ref(), ref()], [keep, other], mergePeople)
  pageOf(keep)
  return result
}

export async function lift(id: number, word: string) {
  const result = await act([ref(), typed()], [id, word], liftSuppression)
  revalidatePath('/screening')
  revalidatePath('/directory/people/[id]', 'page')
  return result
}

export async function liftNoLongerRegistered(asked: { register: string; expected: number; why: string }) {
  const result = await act([object({ register: typed(), expected: ref(), why: typed() }).required()], [asked], liftGone)
  revalidatePath('/screening')
  return result
}

/** How many per cent of a register may be lifted at once without a written reason. */
export async function shareOfLifts(percent: number) {
  const result = await act([number().required()], [percent], (who, share) => setNumber(who, 'lift-share', share))
  revalidatePath('/screening')
  return result
}

export async function takeLiftBack(lifting: number) {
  const result = await act([ref()], [lifting], takeBackLifting)
  revalidatePath('/screening')
  return result
}

export async function lookForDoubles() {
  return act([], [], startSearch)
}

const DECISION = mixed<{ same: number } | 'different'>(
  (value): value is { same: number } | 'different' => value === 'different' || Number.isSafeInteger((value as { same?: unknown })?.same),
).required()

export async function decide(a: number, b: number, decision: { same: number } | 'different') {
  return act([ref(), ref(), DECISION], [a, b, decision], decidePair)
}

export async function reopen(a: number, b: number) {
  return act([ref(), ref()], [a, b], reopenPair)
}

export async function takeBack(merged: number) {
  const result = await act([ref()], [merged], takeBackMerge)
  revalidatePath('/directory/people/[id]', 'page')
  return result
}
