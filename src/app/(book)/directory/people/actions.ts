'use server'

import { revalidatePath } from 'next/cache'
import { boolean } from 'yup'
import { act } from '@/app/requests/answer'
import { free, ref } from '@/app/requests/asked'
import { answerIntroduction, askIntroduction, takeBackIntroduction } from '@/usecases/contact/introductions'
import { acquaint, sayKnown } from '@/usecases/contact/say-known'

export async function say(person: number, how: unknown) {
  return act([ref(), free()], [person, how], sayKnown)
}

export async function acquaintTwo(person: number, other: number, how: unknown) {
  return act([ref(), ref(), free()], [person, other, how], acquaint)
}

export async function askFor(input: unknown) {
  return act([free()], [input], askIntroduction)
}

/** Introductions that are asked for stand on the first page, too. */
export async function answerTo(id: number, accepted: boolean, answer: unknown) {
  const result = await act([ref(), boolean().strict().required(), free()], [id, accepted, answer], answerIntroduction)
  revalidatePath('/', 'layout')
  return result
}

export async function takeBackAsked(id: number) {
  return act([ref()], [id], takeBackIntroduction)
}
