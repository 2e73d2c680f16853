'use server'

import { array, boolean, type InferType, number, object, string } from 'yup'
import { type Fillable, FILLABLES, type Of } from '@/core/sources/enquiry'
import { type Split, SPLITS } from '@/core/sources/parts'
import { type Search, SEARCHED_SOURCES, type SearchedName } from '@/core/sources/source'
import { prepareCheck } from '@/usecases/sources/check-emails'
import { prepareFill } from '@/usecases/sources/fill-gaps'
import { setNumber } from '@/usecases/team/number-settings'
import { startFind } from '@/usecases/sources/find-in-source'
import { act } from '@/app/requests/answer'
import { ref, typed, word } from '@/app/requests/asked'
import { buyForList } from '@/usecases/sources/try-on-list'
import { beginEnquiry } from '@/usecases/sources/begin-enquiry'
import { stopEnquiry } from '@/usecases/sources/stop-enquiry'
import { batchFromEnquiry } from '@/usecases/sources/batch-from-enquiry'
import { splitFind } from '@/usecases/sources/split-find'
import { chooseChannels } from '@/usecases/sources/choose-channels'

const CHANNELS = ['email', 'phone', 'post'] as const
const names = () => array(string().strict().max(200).required()).max(100).default([])
const SEARCH = object({ words: typed(), subKinds: names(), districts: names() }).required()
const OF = object({
  list: ref().optional(),
  line: string().strict().max(60).optional(),
  batch: ref().optional(),
  file: ref().optional(),
  round: ref().optional(),
  rule: string().strict().max(60).optional(),
  name: typed(),
})
  .test('whole', 'say of whom', (of) => [of?.list, of?.batch, of?.file, of?.round].filter((part) => part !== undefined).length === 1)
  .test('ruled', 'say by which rule', (of) => (of?.round === undefined) === (of?.rule === undefined))
  .required()
/** By number alone: what it is called is looked up. */
const meant = ({ list, line, batch, file, round, rule }: InferType<typeof OF>): Of =>
  list !== undefined
    ? { list, name: '', ...(line === undefined ? {} : { line }) }
    : batch !== undefined
      ? { batch, name: '' }
      : round !== undefined
        ? { round, rule: rule as string, name: '' }
        : { file: file as number, name: '' }

export async function find(source: SearchedName, search: Search) {
  return act([word(SEARCHED_SOURCES), SEARCH], [source, search], startFind)
}

export async function split(id: number, by: Split) {
  return act([ref(), word(SPLITS)], [id, by], splitFind)
}

export async function want(id: number, channels: ('email' | 'phone' | 'post')[]) {
  return act([ref(), array(word(CHANNELS)).max(10).required()], [id, channels], chooseChannels)
}

/** Buys those found that would be on a list. */
export async function buyFor(id: number, list: number, how: { open: boolean; most: number }) {
  return act(
    [ref(), ref(), object({ open: boolean().required(), most: number().integer().min(0).required() }).required()],
    [id, list, how],
    buyForList,
  )
}

export async function begin(id: number, cap: number | null) {
  return act([ref(), number().nullable().default(null)], [id, cap], beginEnquiry)
}

export async function stop(id: number) {
  return act([ref()], [id], stopEnquiry)
}

export async function asBatch(id: number) {
  return act([ref()], [id], batchFromEnquiry)
}

export async function check(of: Of) {
  return act([OF], [of], (who, asked) => prepareCheck(who, meant(asked)))
}

export async function fill(of: Of, fields: Fillable[]) {
  return act([OF, array(word(FILLABLES)).max(20).required()], [of, fields], (who, asked, wanted) => prepareFill(who, meant(asked), wanted))
}

export async function goodFor(days: number) {
  return act([number().required()], [days], (who, many) => setNumber(who, 'email-check-good-for', many))
}
