import fc from 'fast-check'
import { expect, test } from 'vitest'
import { FIELD } from '@/core/clean/standard-fields'
import type { PersonRecord } from '@/core/records/person-record'
import { screeningAccount } from '@/core/screening/account'
import type { Allowance, ScreeningMoment } from '@/core/screening/kind'
import { BY_REQUEST, messageRequests, type MessageRequestsRule, requestsLeft } from '@/core/screening/message-requests'
import { firstPolicy, isOfSet } from '@/core/screening/rules'
import { letThrough, rules } from '../../support/lines'
import { blank, columnsOf, directory, MOMENT } from '../../support/people'

const moment: ScreeningMoment = { ...MOMENT, exceptRounds: [], letThrough: [] }
const allowance = (most: number, of: Partial<MessageRequestsRule> = {}): MessageRequestsRule => ({
  id: 'message-requests',
  kind: 'message-requests',
  off: false,
  most,
  days: 30,
  answered: 'is given back',
  first: 'longest in the directory',
  ...of,
})
const somebody = (id: number, way: string | null): PersonRecord => ({
  ...blank,
  id,
  custom: way === null ? {} : { [FIELD.direct]: way },
  addresses: [
    { id: id * 10, channel: 'direct', usable: true, failedAt: null, suppressions: [] },
    { id: id * 10 + 1, channel: 'email', usable: true, failedAt: null, suppressions: [] },
  ],
})
const account = (people: PersonRecord[], rule: MessageRequestsRule, used?: Allowance) => {
  const columns = columnsOf(people)
  const told = screeningAccount(columns.live, [...firstPolicy(), rule], columns, {
    ...moment,
    ...(used ? { allowances: { [rule.id]: used } } : {}),
  })
  return { told, columns, direct: columns.toIds(told.clear.direct).sort((a, b) => a - b) }
}

test('an open message costs none; of those by request the first stay, and the others are told how many are left', () => {
  const people = [somebody(1, BY_REQUEST), somebody(2, 'open'), somebody(3, BY_REQUEST), somebody(4, null), somebody(5, BY_REQUEST)]
  const { told, columns, direct } = account(people, allowance(10), { used: 9, refunded: 2, toCome: 1 })
  expect(direct).toEqual([1, 2, 3, 4])
  expect(told.waiting.get(columns.numberFor(5) as number)).toEqual([
    { rule: 'message-requests', evidence: { kind: 'allowance', most: 10, days: 30, left: 2 }, channels: ['direct'] },
  ])
  // Their email is still open, so nobody is held back everywhere.
  expect(told.figures.rules.at(-1)).toMatchObject({ out: { direct: 1, email: 0 }, anyoneOut: 0 })
})

test('an answer gives back what it cost, or does not; more used than there are leaves none', () => {
  const used = { used: 10, refunded: 3, toCome: 0 }
  expect(requestsLeft(allowance(10), used)).toBe(3)
  expect(requestsLeft(allowance(10, { answered: 'stays used' }), used)).toBe(0)
  expect(requestsLeft(allowance(5, { answered: 'stays used' }), used)).toBe(0)
  expect(account([somebody(1, BY_REQUEST)], allowance(0)).direct).toEqual([])
  // A rule for other channels covers none of them.
  expect(account([somebody(1, BY_REQUEST)], allowance(0, { channels: ['email'] })).direct).toEqual([1])
})

test('its note says what is used, given back, still to send and left', () => {
  const note = (of: Partial<MessageRequestsRule>, used?: Allowance) =>
    messageRequests.note(allowance(50, of), { ...MOMENT, ...(used ? { allowances: { 'message-requests': used } } : {}) })
  expect(note({}, { used: 38, refunded: 3, toCome: 5 })).toMatch(/38 used, 3 given back, 5 still to send in other rounds: 10 left$/)
  expect(note({ answered: 'stays used' }, { used: 38, refunded: 3, toCome: 0 })).toMatch(/\. 38 used: 12 left$/)
  expect(note({})).not.toMatch(/left/)
})

test('never more by request than are left, nobody else loses a message, and nobody waits while some are left', () => {
  const used = fc.record({ used: fc.nat(6), refunded: fc.nat(3), toCome: fc.nat(3) })
  fc.assert(
    fc.property(directory, rules, letThrough, fc.nat(6), used, (people, whole, through, most, before) => {
      const rule = allowance(most)
      const columns = columnsOf(people)
      const policy = whole.filter((own) => !isOfSet(own))
      const at = { ...moment, letThrough: through, allowances: { [rule.id]: before } }
      const without = screeningAccount(columns.live, policy, columns, at)
      const told = screeningAccount(columns.live, [...policy, rule], columns, at)
      const left = requestsLeft(rule, before)
      const asked = people.filter(
        (p) => p.custom[FIELD.direct] === BY_REQUEST && without.clear.direct.has(columns.numberFor(p.id) as number),
      )
      const passed = (p: PersonRecord) => through.some((own) => own.person === p.id && own.channel === 'direct')
      const stay = asked.filter((p) => told.clear.direct.has(columns.numberFor(p.id) as number))
      expect(stay.filter((p) => !passed(p)).length).toBeLessThanOrEqual(left)
      expect(stay.length).toBeGreaterThanOrEqual(Math.min(left, asked.length))
      const lost = without.clear.direct.andNot(told.clear.direct)
      expect(columns.toIds(lost).every((id) => asked.some((p) => p.id === id))).toBe(true)
      for (const channel of ['email', 'phone', 'post'] as const)
        expect(told.clear[channel].andNot(without.clear[channel]).or(without.clear[channel].andNot(told.clear[channel])).count()).toBe(0)
    }),
  )
})
