'use server'

import { revalidatePath } from 'next/cache'
import { boolean, string } from 'yup'
import { act } from '@/app/requests/answer'
import { free, ref } from '@/app/requests/asked'
import { wantDigest } from '@/usecases/team/want-digest'
import { doneTask, handTask, makeTask, moveTask } from '@/usecases/team/tasks'

/** Tasks show on the first page, and on the records they are about. */
const anew = () => revalidatePath('/', 'layout')

export async function make(input: unknown) {
  const result = await act([free()], [input], makeTask)
  anew()
  return result
}

export async function done(id: number, is: boolean) {
  const result = await act([ref(), boolean().strict().required()], [id, is], doneTask)
  anew()
  return result
}

export async function hand(id: number, to: string) {
  const result = await act([ref(), string().strict().max(200).required()], [id, to], handTask)
  anew()
  return result
}

export async function move(id: number, due: string | null) {
  const result = await act([ref(), string().strict().max(10).nullable().defined()], [id, due], moveTask)
  anew()
  return result
}

export async function want(wanted: boolean) {
  const result = await act([boolean().strict().required()], [wanted], wantDigest)
  anew()
  return result
}
