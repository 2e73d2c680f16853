'use server'

import type { Fillable, Of } from '@/core/sources/enquiry'
import type { Split } from '@/core/sources/parts'
import type { Search, SearchedName } from '@/core/sources/source'
import { prepareCheck, setCheckGoodFor } from '@/usecases/check-emails'
import { beginEnquiry, stopEnquiry } from '@/usecases/enquiries'
import { batchFromEnquiry, prepareFill } from '@/usecases/fill-gaps'
import { chooseChannels, splitFind, startFind } from '@/usecases/find-in-source'
import { act } from '../../../answer'

export async function find(source: SearchedName, search: Search) {
  return act((who) => startFind(who, source, search))
}

export async function split(id: number, by: Split) {
  return act((who) => splitFind(who, id, by))
}

export async function want(id: number, channels: ('email' | 'phone' | 'post')[]) {
  return act((who) => chooseChannels(who, id, channels))
}

export async function begin(id: number, cap: number | null) {
  return act((who) => beginEnquiry(who, id, cap))
}

export async function stop(id: number) {
  return act((who) => stopEnquiry(who, id))
}

export async function asBatch(id: number) {
  return act((who) => batchFromEnquiry(who, id))
}

export async function check(of: Of) {
  return act((who) => prepareCheck(who, of))
}

export async function fill(of: Of, fields: Fillable[]) {
  return act((who) => prepareFill(who, of, fields))
}

export async function goodFor(days: number) {
  return act((who) => setCheckGoodFor(who, days))
}
