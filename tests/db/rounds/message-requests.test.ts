import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { newRule } from '@/core/screening/new-rule'
import { pinClock } from '@/runtime/clock'
import { recordContact } from '@/usecases/contact/record-contact'
import { createList } from '@/usecases/lists/create-list'
import { closeRound } from '@/usecases/rounds/close-round'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { startRound } from '@/usecases/rounds/start-round'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let k = 0
const onDay = (day: number) => pinClock(new Date(Date.UTC(2026, 5, 15, 9) + day * 86_400_000))
beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
})

/** Four people with a profile, three of whom take messages by request, and a round of theirs with an allowance. */
async function asking(most: number, days = 30) {
  const own = ++k
  const ways = ['by request', 'open', 'by request', 'by request']
  const rows = ways.map((way, i) => `Q${own}${i},Quinn${'abcd'[i]} Asked${'abcdefghij'[own]},@quinn_${own}${i},${way}`)
  const batch = await broughtIn(t.ines, `asked-${own}.csv`, `Id,Name,Handle,Direct messages\n${rows.join('\n')}\n`)
  const ids: number[] = (await t.app('person').where({ batch_id: batch }).orderBy('id').select('id')).map((p) => p.id)
  const start: Line = { id: 's', verb: 'start', off: false, batch: { id: batch, name: 'asked' } }
  const list = await createList(t.ines, `Asked ${own}`, true, [start])
  const round = await startRound(t.ines, list)
  const rules = (await openRound(t.ines, round)).rules.map(({ rule }) => rule)
  await setRules(t.ines, round, [...rules, { ...newRule('message-requests', rules), most, days } as never], 'few are left')
  return { round, list, ids }
}
const clear = async (round: number) =>
  (await screenRound(t.ines, round, { tab: 'channel', channel: 'direct' })).page.people.map(({ id }) => id).sort((a, b) => a - b)
const note = async (round: number) => (await openRound(t.ines, round)).rules.find(({ rule }) => rule.kind === 'message-requests')?.note
const made = (person: number, result: string) => recordContact(t.ines, person, { channel: 'direct', result, note: null, date: null })

test('a round keeps within what is left; sending, answers and days gone by change it', async () => {
  onDay(0)
  const { round, ids } = await asking(2)
  expect(await clear(round)).toEqual(ids.slice(0, 3))
  expect(await note(round)).toMatch(/0 used, 0 given back: 2 left$/)
  const held = await screenRound(t.ines, round, { tab: 'held' })
  expect(held.page.people.map(({ id, because }) => [id, because?.detail])).toEqual([
    [ids[3], 'Others come first: 2 of 2 message requests in 30 days are left'],
  ])
  await releaseRound(t.ines, round)
  // What a round that is out is still to send is taken already.
  const next = await asking(2)
  expect(await note(next.round)).toMatch(/0 used, 0 given back, 2 still to send in other rounds: 0 left$/)
  expect(await clear(next.round)).toEqual([next.ids[1]])
  await made(ids[0], 'sent')
  await made(ids[1], 'sent')
  expect(await note(next.round)).toMatch(/1 used, 0 given back, 1 still to send in other rounds: 0 left$/)
  // The answer is another entry of the same request.
  await made(ids[0], 'replied')
  expect(await note(next.round)).toMatch(/1 used, 1 given back, 1 still to send in other rounds: 1 left$/)
  expect(await clear(next.round)).toEqual(next.ids.slice(0, 2))
  await closeRound(t.ines, round)
  expect(await clear(next.round)).toEqual(next.ids.slice(0, 3))
  await made(ids[2], 'sent')
  expect(await clear(next.round)).toEqual(next.ids.slice(0, 2))
  onDay(31)
  expect(await note(next.round)).toMatch(/0 used, 0 given back: 2 left$/)
  expect(await clear(next.round)).toEqual(next.ids.slice(0, 3))
})

test('two rounds that are released for the same last requests: the second is refused', async () => {
  onDay(100)
  const [one, other] = [await asking(3), await asking(3)]
  const seen = async (round: number) => {
    const { figures, basis } = await screenRound(t.ines, round, { tab: 'clear' })
    return { basis: basis as string, clear: figures.clear }
  }
  const [a, b] = [await seen(one.round), await seen(other.round)]
  expect([a.clear.direct, b.clear.direct]).toEqual([4, 4])
  const done = await Promise.allSettled([releaseRound(t.ines, one.round, a), releaseRound(t.ines, other.round, b)])
  expect(done.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
  const refused = done.find(({ status }) => status === 'rejected') as PromiseRejectedResult
  expect(String(refused.reason)).toMatch(/changed since|Message requests were used/)
  const { n } = (await t
    .app('contact_to_come')
    .whereIn('round_id', [one.round, other.round])
    .whereNotIn('person_id', [one.ids[1], other.ids[1]])
    .count('person_id as n')
    .first()) as { n: number }
  expect(Number(n)).toBe(3)
})
