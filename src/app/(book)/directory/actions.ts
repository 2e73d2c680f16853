'use server'

import { revalidatePath } from 'next/cache'
import { addNote, recordContact } from '@/usecases/record-contact'
import { liftSuppression, suppress } from '@/usecases/suppressions'
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

export async function suppressAddress(text: string, input: unknown) {
  const result = await act((who) => suppress(who, { text }, input))
  revalidatePath('/screening')
  return result
}

export async function lift(id: number, word: string) {
  const result = await act((who) => liftSuppression(who, id, word))
  revalidatePath('/screening')
  revalidatePath('/directory/people/[id]', 'page')
  return result
}
