'use server'

import { revalidatePath } from 'next/cache'
import { releaseRound } from '@/usecases/release-round'
import { closeRound, setRules } from '@/usecases/rounds'
import { act } from '../../answer'

export async function changeRules(id: number, rules: unknown) {
  return act((who) => setRules(who, id, rules))
}

export async function release(id: number) {
  const result = await act((who) => releaseRound(who, id))
  revalidatePath(`/rounds/${id}`)
  return result
}

export async function close(id: number) {
  const result = await act((who) => closeRound(who, id))
  revalidatePath(`/rounds/${id}`)
  return result
}
