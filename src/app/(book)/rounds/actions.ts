'use server'

import { revalidatePath } from 'next/cache'
import { redirect } from 'next/navigation'
import { letThrough, letThroughAll, MOST_LET_THROUGH } from '@/usecases/screening/let-through'
import type { Confirmed } from '@/core/views/round-views'
import { releaseRound } from '@/usecases/rounds/release-round'
import { act } from '@/app/requests/answer'
import { boolean, string } from 'yup'
import { confirmedLetters, confirmedRound, free, ref, refs, typed, word } from '@/app/requests/asked'
import { CHANNELS, type Channel } from '@/core/records/channels'
import { setRules } from '@/usecases/rounds/set-rules'
import { takePolicy } from '@/usecases/rounds/take-policy'
import { beginFitCheck } from '@/usecases/rounds/begin-fit-check'
import { endFitCheck } from '@/usecases/rounds/end-fit-check'
import { judgeFit, takeBackFit } from '@/usecases/rounds/judge-fit'
import { tightenList } from '@/usecases/rounds/tighten-list'
import { chooseLetters } from '@/usecases/rounds/choose-letters'
import { recordLetter } from '@/usecases/rounds/record-letter'
import { recordPosted } from '@/usecases/rounds/record-posted'
import { type ConfirmedLetters, releasePremisesRound } from '@/usecases/rounds/release-premises-round'
import { takeBackPosted } from '@/usecases/rounds/take-back-posted'
import { beginMail } from '@/usecases/rounds/begin-mail'
import { pauseMail } from '@/usecases/rounds/pause-mail'
import { removeLayout } from '@/usecases/rounds/remove-layout'
import { saveLayout } from '@/usecases/rounds/save-layout'
import { resumeMail } from '@/usecases/rounds/resume-mail'
import { shareFile } from '@/usecases/rounds/share-file'
import { unshareFile } from '@/usecases/rounds/unshare-file'
import { setOnlyNew } from '@/usecases/rounds/set-only-new'
import { sendOneToMe } from '@/usecases/rounds/send-one-to-me'
import { writeLetter } from '@/usecases/rounds/write-letter'
import { startSupplement } from '@/usecases/rounds/start-supplement'
import { setSteps } from '@/usecases/rounds/set-steps'
import { closeRound } from '@/usecases/rounds/close-round'
import { takeBackAll, takeBackLetThrough } from '@/usecases/screening/take-back-let-through'

export async function changeRules(id: number, rules: unknown, why = '') {
  return act([ref(), free(), typed(400)], [id, rules, why], setRules)
}

export async function takePolicyOf(id: number) {
  return act([ref()], [id], takePolicy)
}

export async function release(id: number, confirmed: Confirmed) {
  const result = await act([ref(), confirmedRound], [id, confirmed], releaseRound)
  revalidatePath(`/rounds/${Number(id)}`)
  return result
}

export async function close(id: number) {
  const result = await act([ref()], [id], closeRound)
  revalidatePath(`/rounds/${Number(id)}`)
  return result
}

export async function supplement(id: number) {
  const begun = await act([ref()], [id], startSupplement)
  if (begun.ok) redirect(`/rounds/${begun.value}`)
  return begun
}

export async function steps(id: number, planned: unknown) {
  return act([ref(), free()], [id, planned], setSteps)
}

export async function saveLetter(round: number, letter: unknown, seen: string) {
  return act([ref(), free(), typed(40)], [round, letter, seen], writeLetter)
}

export async function tryLetter(round: number, letter: unknown, n: number) {
  return act([ref(), free(), ref()], [round, letter, n], sendOneToMe)
}

export async function sendEmails(round: number, how: unknown) {
  return act([ref(), free()], [round, how], beginMail)
}

export async function pauseEmails(round: number) {
  return act([ref()], [round], pauseMail)
}

export async function resumeEmails(round: number) {
  return act([ref()], [round], resumeMail)
}

export async function keepLayout(channel: Channel, name: string, layout: unknown) {
  return act([word(CHANNELS), typed(100), free()], [channel, name, layout], saveLayout)
}

export async function dropLayout(layout: number) {
  return act([ref()], [layout], removeLayout)
}

export async function shareOut(round: number, channel: Channel, how: unknown) {
  return act([ref(), word(CHANNELS), free()], [round, channel, how], shareFile)
}

export async function unshare(round: number, channel: Channel) {
  return act([ref(), word(CHANNELS)], [round, channel], unshareFile)
}

export async function onlyNew(round: number, only: boolean) {
  return act([ref(), boolean().required()], [round, only], setOnlyNew)
}

export async function choose(round: number, choice: unknown) {
  return act([ref(), free()], [round, choice], chooseLetters)
}

export async function releaseLetters(round: number, confirmed: ConfirmedLetters) {
  const result = await act([ref(), confirmedLetters], [round, confirmed], releasePremisesRound)
  revalidatePath(`/rounds/${Number(round)}`)
  return result
}

export async function posted(round: number, day: string) {
  return act([ref(), typed(10)], [round, day], recordPosted)
}

export async function unposted(round: number) {
  return act([ref()], [round], takeBackPosted)
}

export async function heard(round: number, letter: number, what: string | null) {
  return act([ref(), ref(), string().max(40).nullable().default(null)], [round, letter, what], recordLetter)
}

export async function pass(round: number, person: number, channel: Channel, reason: string) {
  return act([ref(), ref(), word(CHANNELS), typed()], [round, person, channel, reason], letThrough)
}

export async function passAll(round: number, people: number[], channel: Channel, reason: string) {
  return act([ref(), refs(MOST_LET_THROUGH + 1), word(CHANNELS), typed()], [round, people, channel, reason], letThroughAll)
}

export async function passAllBack(round: number, people: number[], channel: Channel) {
  return act([ref(), refs(MOST_LET_THROUGH + 1), word(CHANNELS)], [round, people, channel], takeBackAll)
}

export async function passBack(round: number, person: number, channel: Channel) {
  return act([ref(), ref(), word(CHANNELS)], [round, person, channel], takeBackLetThrough)
}

export async function drawSample(round: number, plan: unknown) {
  return act([ref(), free()], [round, plan], beginFitCheck)
}

export async function judge(check: number, person: number, verdict: unknown) {
  return act([ref(), ref(), free()], [check, person, verdict], judgeFit)
}

export async function unjudge(check: number, person: number) {
  return act([ref(), ref()], [check, person], takeBackFit)
}

export async function endCheck(check: number) {
  return act([ref()], [check], endFitCheck)
}

export async function tighten(round: number, pattern: string) {
  return act([ref(), typed(400)], [round, pattern], tightenList)
}
