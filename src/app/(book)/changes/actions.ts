'use server'

import { revalidatePath } from 'next/cache'
import { boolean, number, string } from 'yup'
import { act as asked } from '@/app/requests/answer'
import { free, ref, word } from '@/app/requests/asked'
import { SUBJECTS, type Subject } from '@/core/records/subject'
import type { ChangeAct } from '@/ui/changes/change-actions'
import { readFeedsNow } from '@/usecases/changes/ask-feeds'
import { actOnChange, putOffChange } from '@/usecases/changes/act-on-change'
import { archiveKind, muteKind, saveKind } from '@/usecases/changes/change-kinds'
import { lookedAtChanges } from '@/usecases/changes/changes-page'
import { decideChange } from '@/usecases/changes/decide-change'
import { undoDecision } from '@/usecases/changes/undo-decision'
import { followList, followRecord, reachBack } from '@/usecases/changes/following'
import { reportByHand } from '@/usecases/changes/report-by-hand'
import { recordContact } from '@/usecases/contact/record-contact'

/** What one follows, and what is told of a record, is shown on several pages. */
const anew = () => revalidatePath('/', 'layout')
const ACTS = ['take', 'let go', 'handle', 'set aside', 'reopen'] as const

export async function act(id: number, what: ChangeAct) {
  return asked([ref(), word(ACTS)], [id, what], actOnChange)
}

/** Until a day, or no longer. */
export async function putOff(id: number, until: string | null) {
  return asked([ref(), string().strict().max(10).nullable().defined()], [id, until], putOffChange)
}

export async function looked() {
  return asked([], [], lookedAtChanges)
}

export async function contact(person: number, input: unknown) {
  return asked([ref(), free()], [person, input], recordContact)
}

export async function decide(id: number, decision: 'confirm' | 'turn down') {
  return asked([ref(), word(['confirm', 'turn down'] as const)], [id, decision], decideChange)
}

/** Takes a confirmation back. */
export async function undecide(id: number) {
  return asked([ref()], [id], undoDecision)
}

export async function report(input: unknown) {
  const result = await asked([free()], [input], reportByHand)
  anew()
  return result
}

export async function followOneList(list: number, on: boolean) {
  const result = await asked([ref(), boolean().strict().required()], [list, on], followList)
  anew()
  return result
}

export async function followOneRecord(of: Subject, id: number, on: boolean) {
  const result = await asked([word(SUBJECTS), ref(), boolean().strict().required()], [of, id, on], followRecord)
  anew()
  return result
}

export async function muteOneKind(kind: number, muted: boolean) {
  const result = await asked([ref(), boolean().strict().required()], [kind, muted], muteKind)
  anew()
  return result
}

export async function saveOneKind(kind: number | null, input: unknown) {
  const result = await asked([ref().nullable().defined(), free()], [kind, input], (who, id, given) =>
    saveKind(who, id as number | null, given),
  )
  anew()
  return result
}

export async function archiveOneKind(kind: number) {
  const result = await asked([ref()], [kind], archiveKind)
  anew()
  return result
}

export async function reach(days: number) {
  const result = await asked([number().strict().integer().min(0).max(3650).required()], [days], reachBack)
  anew()
  return result
}

export async function readFeeds() {
  return asked([], [], readFeedsNow)
}
