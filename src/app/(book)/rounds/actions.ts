'use server'

import { revalidatePath } from 'next/cache'
import type { ScreenedChannel } from '@/core/columns/person-record'
import { letThrough, takeBackLetThrough } from '@/usecases/let-through'
import { releaseRound } from '@/usecases/release-round'
import { closeRound, setRules } from '@/usecases/rounds'
import { act } from '../../answer'

export async function changeRules(id: number, rules: unknown) {
  return act((who) => setRules(who, id, rules))
}

export async function release(id: number, basis: string) {
  const result = await act((who) => releaseRound(who, id, String(basis)))
  revalidatePath(`/rounds/${id}`)
  return result
}

export async function close(id: number) {
  const result = await act((who) => closeRound(who, id))
  revalidatePath(`/rounds/${id}`)
  return result
}

export async function pass(round: number, person: number, channel: ScreenedChannel, reason: string) {
  return act((who) => letThrough(who, round, person, channel, reason))
}

export async function passBack(round: number, person: number, channel: ScreenedChannel) {
  return act((who) => takeBackLetThrough(who, round, person, channel))
}
