'use server'

import { revalidatePath } from 'next/cache'
import { addNote, recordContact } from '@/usecases/record-contact'
import { mergePeople } from '@/usecases/merge-people'
import { liftSuppression, suppress, type Target } from '@/usecases/suppressions'
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
