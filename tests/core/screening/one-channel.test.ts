import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { CHANNELS, type Channel } from '@/core/records/channels'
import type { PersonRecord } from '@/core/records/person-record'
import { screeningAccount } from '@/core/screening/account'
import type { ScreeningMoment } from '@/core/screening/kind'
import { type OneChannelRule, oneChannel } from '@/core/screening/one-channel'
import { firstPolicy, isOff, ruleText, type Rule, validRules } from '@/core/screening/rules'
import { rules } from '../../support/lines'
import { blank, columnsOf, directory, MOMENT } from '../../support/people'

const moment: ScreeningMoment = { ...MOMENT, exceptRounds: [], letThrough: [] }
const plan = (of: Partial<OneChannelRule> = {}): OneChannelRule => ({
  id: 'one-channel',
  kind: 'one-channel',
  off: false,
  first: 'phone',
  second: 'post',
  third: 'none',
  fourth: 'none',
  who: 'longest in the directory',
  ...of,
})
const with_ = (id: number, ...channels: Channel[]): PersonRecord => ({
  ...blank,
  id,
  addresses: channels.map((channel, i) => ({ id: id * 10 + i, channel, usable: true, failedAt: null, suppressions: [], key: id * 10 + i })),
})
const clearOf = (people: PersonRecord[], policy: Rule[], through: ScreeningMoment['letThrough'] = []) => {
  const columns = columnsOf(people)
  const account = screeningAccount(columns.live, policy, columns, { ...moment, letThrough: through })
  const ids = (channel: Channel) => columns.toIds(account.clear[channel]).sort((a, b) => a - b)
  return { account, columns, ids, waits: (id: number) => account.waiting.get(columns.numberFor(id) as number) }
}

describe('one channel each', () => {
  const people = [with_(1, 'phone', 'post'), with_(2, 'post'), with_(3, 'phone', 'post', 'email'), with_(4, 'email')]

  test('with a phone onto the call file, without onto labels; each is told why they wait on the others', () => {
    const { ids, waits, account } = clearOf(people, [...firstPolicy(), plan()])
    expect([ids('phone'), ids('post'), ids('email')]).toEqual([[1, 3], [2], []])
    expect(waits(1)).toEqual([{ rule: 'one-channel', evidence: { kind: 'planned', by: 'phone' }, channels: ['post'] }])
    expect(waits(2)).toBeUndefined()
    // An email alone is not part of the plan.
    expect(waits(4)).toEqual([{ rule: 'one-channel', evidence: { kind: 'planned', by: null }, channels: ['email'] }])
    expect(account.figures.anyone).toBe(3)
  })

  test('a limit sends the next ones to the channel after it, those first who come first', () => {
    const { ids } = clearOf(people, [...firstPolicy(), plan({ mostPhone: 1 })])
    expect([ids('phone'), ids('post')]).toEqual([[1], [2, 3]])
  })

  test('a budget is in whole units, costs in minor ones', () => {
    const { ids } = clearOf(people, [...firstPolicy(), plan({ costPhone: 120, costPost: 90, budget: 3 })])
    // Three contacts cost 300 pence at most: 90 for post each and 120 for one call.
    expect([ids('phone'), ids('post')]).toEqual([[1], [2, 3]])
  })

  test('whom somebody lets through on another channel is contacted by both', () => {
    const { ids } = clearOf(people, [...firstPolicy(), plan()], [{ person: 1, channel: 'post' }])
    expect([ids('phone'), ids('post')]).toEqual([
      [1, 3],
      [1, 2],
    ])
  })

  test('is refused where a channel stands twice or a limit is none', () => {
    const says = (of: object) => expect(() => validRules([...firstPolicy(), { ...plan(), ...of }]))
    says({ second: 'phone' }).toThrow(/each channel stands once/)
    says({ mostPhone: -1 }).toThrow(/One channel each/)
    says({ first: 'none' }).toThrow(/One channel each/)
    says({ budget: 1.5 }).toThrow(/whole amounts/)
    expect(ruleText(plan({ mostPhone: 300, budget: 400 }))).toBe(
      'One channel each: phone, else post, at most 300 by phone, within a budget of £400',
    )
    expect(oneChannel.optional).toBe(true)
  })

  test('leaves nobody two channels, keeps to its limits and its budget, and holds back nobody it could contact', () => {
    const planned = rules.map((own) => [
      ...own.filter(({ kind }) => kind !== 'one-channel'),
      plan({ mostPhone: 2, mostPost: 3, third: 'email', fourth: 'direct', costPhone: 100, costPost: 60, budget: 5 }),
    ])
    fc.assert(
      fc.property(directory, planned, (people, policy) => {
        const before = clearOf(
          people,
          policy.map((rule) => (rule.kind === 'one-channel' ? { ...rule, off: true } : rule)),
        )
        const { account, columns } = clearOf(people, policy)
        const rule = policy.at(-1) as OneChannelRule
        if (isOff(rule)) return
        columns.live.forEach((n) => {
          expect(CHANNELS.filter((channel) => account.clear[channel].has(n)).length).toBeLessThanOrEqual(1)
        })
        const { clear } = account.figures
        expect(clear.phone).toBeLessThanOrEqual(2)
        expect(clear.post).toBeLessThanOrEqual(3)
        expect(clear.phone * 100 + clear.post * 60).toBeLessThanOrEqual(500)
        for (const channel of CHANNELS) expect(account.clear[channel].andNot(before.account.clear[channel]).count()).toBe(0)
        // Email and direct messages cost nothing and have no limit: whoever has one of them is contacted.
        const free = before.account.clear.email.or(before.account.clear.direct)
        expect(free.andNot(account.anyone).count()).toBe(0)
      }),
    )
  })
})
