'use server'

import { revalidatePath } from 'next/cache'
import { setCustom } from '@/usecases/custom-fields'
import { decidePair, reopenPair } from '@/usecases/doubles'
import { startSearch } from '@/usecases/find-doubles'
import { addNote, recordContact } from '@/usecases/record-contact'
import { mergePeople } from '@/usecases/merge-people'
import { liftGone, takeBackLifting } from '@/usecases/lift-suppressions'
import { liftSuppression, suppress, type Target } from '@/usecases/suppressions'
import { takeBackMerge } from '@/usecases/take-back-merge'
import { act } from '../../answer'

export async function contact(person: number, input: unknown) {
  const result = await act((who) => recordContact(who, person, input))
  revalidatePath(`/directory/people/${person}`)
  return result
}

export async function note(person: number, text: string) {
  const result = await act((who) => addNote(who, person, text))
  revalidatePath(`/directory/people/${person}`)
  return result
}

export async function setField(person: number, field: number, value: string) {
  const result = await act((who) => setCustom(who, person, field, value))
  revalidatePath(`/directory/people/${person}`)
  return result
}

export async function suppressPerson(person: number, input: unknown) {
  const result = await act((who) => suppress(who, { person }, input))
  revalidatePath(`/directory/people/${person}`)
  return result
}

/** What a form says is to be suppressed: what was typed, a postal address, or an organisation. */
export async function suppressTarget(target: Exclude<Target, { person: number }>, input: unknown) {
  const result = await act((who) => suppress(who, target, input))
  revalidatePath('/screening')
  if ('organisation' in target) revalidatePath(`/directory/organisations/${target.organisation}`)
  return result
}

export async function merge(keep: number, other: number) {
  const result = await act((who) => mergePeople(who, keep, other))
  revalidatePath(`/directory/people/${keep}`)
  return result
}

export async function lift(id: number, word: string) {
  const result = await act((who) => liftSuppression(who, id, word))
  revalidatePath('/screening')
  revalidatePath('/directory/people/[id]', 'page')
  return result
}

export async function liftNoLongerRegistered(asked: { register: string; expected: number; why: string }) {
  const result = await act((who) => liftGone(who, { register: String(asked.register), expected: Number(asked.expected), why: String(asked.why) }))
  revalidatePath('/screening')
  return result
}

export async function takeLiftBack(lifting: number) {
  const result = await act((who) => takeBackLifting(who, lifting))
  revalidatePath('/screening')
  return result
}

export async function lookForDoubles() {
  return act((who) => startSearch(who))
}

export async function decide(a: number, b: number, decision: { same: number } | 'different') {
  return act((who) => decidePair(who, a, b, decision))
}

export async function reopen(a: number, b: number) {
  return act((who) => reopenPair(who, a, b))
}

export async function takeBack(merged: number) {
  const result = await act((who) => takeBackMerge(who, merged))
  revalidatePath('/directory/people/[id]', 'page')
  return result
}
