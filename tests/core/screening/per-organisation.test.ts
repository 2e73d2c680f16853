import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { CHANNELS, type Channel } from '@/core/records/channels'
import type { PersonRecord } from '@/core/records/person-record'
import { screeningAccount } from '@/core/screening/account'
import type { ScreeningMoment } from '@/core/screening/kind'
import type { PerOrganisationRule } from '@/core/screening/per-organisation'
import { ranked } from '@/core/screening/ranked'
import { firstPolicy, isOfSet, type Rule, validRules } from '@/core/screening/rules'
import { screenRecord, withWaiting } from '@/core/screening/screen-record'
import { ASOF, blank, columnsOf, DAY, directory, MOMENT } from '../../support/people'
import { letThrough, rules } from '../../support/lines'

const moment: ScreeningMoment = { ...MOMENT, exceptRounds: [], letThrough: [] }
const atMost = (most: number, of: Partial<PerOrganisationRule> = {}): PerOrganisationRule => ({
  id: 'per-organisation',
  kind: 'per-organisation',
  off: false,
  most,
  first: 'longest in the directory',
  ...of,
})
const address = (id: number, channel: Channel) => ({ id, channel, usable: true, failedAt: null, suppressions: [] })
const somebody = (id: number, of: Partial<PersonRecord> = {}): PersonRecord => ({
  ...blank,
  id,
  organisation: 7,
  addresses: [address(id * 10, 'email'), address(id * 10 + 1, 'phone')],
  ...of,
})
const clearOf = (
  people: PersonRecord[],
  policy: Rule[],
  through: ScreeningMoment['letThrough'] = [],
  more: Partial<ScreeningMoment> = {},
) => {
  const columns = columnsOf(people)
  const listed = columns.numbers(people.filter(({ id }) => !more.seats?.of.some(({ person }) => person === id)).map(({ id }) => id))
  const account = screeningAccount(listed, policy, columns, { ...moment, letThrough: through, ...more })
  return { account, columns, ids: (channel: Channel) => columns.toIds(account.clear[channel]).sort((a, b) => a - b) }
}

test('two of five of one organisation stay, the first of them; whoever has no organisation is not limited', () => {
  const people = [...[1, 2, 3, 4, 5].map((id) => somebody(id)), somebody(6, { organisation: null }), somebody(8, { organisation: 9 })]
  const { account, ids, columns } = clearOf(people, [...firstPolicy(), atMost(2)])
  expect(ids('email')).toEqual([1, 2, 6, 8])
  expect(account.figures.rules.at(-1)).toMatchObject({ rule: 'per-organisation', anyoneOut: 3, out: { email: 3, phone: 3, post: 0 } })
  expect(account.waiting.get(columns.numberFor(5) as number)).toEqual([
    {
      rule: 'per-organisation',
      evidence: { kind: 'waits', most: 2, behind: [1, 2] },
      channels: CHANNELS,
    },
  ])
})

test('nobody waits behind somebody who is held back', () => {
  const people = [somebody(1, { relation: 'customer' }), somebody(2), somebody(3)]
  expect(clearOf(people, [...firstPolicy(), atMost(1)]).ids('email')).toEqual([2])
})

test('whoever waits can be let through by one channel, and takes nobody’s place', () => {
  const people = [somebody(1), somebody(2), somebody(3)]
  const { ids } = clearOf(people, [...firstPolicy(), atMost(1)], [{ person: 3, channel: 'phone' }])
  expect([ids('email'), ids('phone')]).toEqual([[1], [1, 3]])
})

test('a rule for one channel closes that one alone', () => {
  const { ids } = clearOf([somebody(1), somebody(2)], [...firstPolicy(), atMost(1, { channels: ['phone'] })])
  expect([ids('email'), ids('phone')]).toEqual([[1, 2], [1]])
})

test('in a supplement whom its round released counts, once however many contacts they get', () => {
  const people = [1, 2, 3, 4].map((id) => somebody(id))
  const of = [
    { person: 1, channel: 'email' as const, address: 10 },
    { person: 1, channel: 'phone' as const, address: 11 },
  ]
  const { ids, account, columns } = clearOf(people, [...firstPolicy(), atMost(2)], [], { seats: { print: 'x', of } })
  expect(ids('email')).toEqual([2])
  expect(account.waiting.get(columns.numberFor(3) as number)?.[0].evidence).toEqual({ kind: 'waits', most: 2, behind: [1, 2] })
})

test('who stays is ranked as the rule says, and even ones by their number', () => {
  const of = (id: number, ways: number, contacts: number) => ({ id, ways, contacts })
  const members = [of(1, 1, 0), of(2, 3, 9), of(3, 3, 2), of(4, 2, 0)]
  expect(ranked('most ways to reach', members).map(({ id }) => id)).toEqual([2, 3, 4, 1])
  expect(ranked('least often contacted', members).map(({ id }) => id)).toEqual([1, 4, 3, 2])
  expect(ranked('longest in the directory', members).map(({ id }) => id)).toEqual([1, 2, 3, 4])
})

test('rules about a set are put after all others, whatever order they come in', () => {
  const [first, ...rest] = firstPolicy()
  const policy = validRules([first, atMost(2), ...rest])
  expect(policy.map(({ id }) => id)).toEqual([...firstPolicy().map(({ id }) => id), 'per-organisation'])
})

test('of no organisation more are left than the rule says, and those who wait are the last of those whom nothing else holds back', () => {
  fc.assert(
    fc.property(directory, rules, letThrough, fc.integer({ min: 1, max: 3 }), (people, policy, through, most) => {
      const own = policy.filter((rule) => !isOfSet(rule))
      const at = { ...moment, letThrough: through }
      const passed = (p: PersonRecord, channel: Channel) => through.some((t) => t.person === p.id && t.channel === channel)
      const { account, columns } = clearOf(people, [...own, atMost(most)], through)
      const open = people.filter((p) => screenRecord(p, own, at).heldBackBy === null)
      for (const organisation of new Set(open.flatMap((p) => p.organisation ?? []))) {
        const group = open.filter((p) => p.organisation === organisation).sort((a, b) => a.id - b.id)
        for (const [place, p] of group.entries())
          for (const channel of CHANNELS) {
            const stays = screenRecord(p, own, at).channels[channel].open && (place < most || passed(p, channel))
            expect(account.clear[channel].has(columns.numberFor(p.id) as number)).toBe(stays)
          }
      }
    }),
  )
})

test('two of them, each for other channels: both are told, and the verdict of each person says what the sets say', () => {
  const people = [1, 2, 3].map((id) => somebody(id))
  const policy: Rule[] = [
    ...firstPolicy(),
    atMost(1, { channels: ['phone'] }),
    { ...atMost(2, { channels: ['email'] }), id: 'per-organisation-2' },
  ]
  const { account, columns, ids } = clearOf(people, policy)
  expect([ids('email'), ids('phone')]).toEqual([[1, 2], [1]])
  expect(account.waiting.get(columns.numberFor(3) as number)?.map(({ rule }) => rule)).toEqual(['per-organisation', 'per-organisation-2'])
  const verdict = withWaiting(screenRecord(people[2], policy, moment), account.waiting.get(columns.numberFor(3) as number), [])
  expect(verdict).toMatchObject({
    heldBackBy: 'per-organisation-2',
    channels: { email: { rule: 'per-organisation-2' }, phone: { rule: 'per-organisation' } },
  })
})

test('of a household: those without an organisation at one postal address', () => {
  const at = (id: number, key: number) => ({ ...address(id, 'post'), key })
  const people = [1, 2, 3, 4].map((id) => somebody(id, { organisation: null, addresses: [at(id, id < 4 ? 77 : 78)] }))
  // At the same place by their office: of no household.
  people.push(somebody(5, { addresses: [at(5, 77)] }))
  const { account, ids, columns } = clearOf(people, [...firstPolicy(), atMost(1, { of: 'household' })])
  expect(ids('post')).toEqual([1, 4, 5])
  expect(account.waiting.get(columns.numberFor(2) as number)?.[0].evidence).toEqual({
    kind: 'waits',
    most: 1,
    behind: [1],
    of: 'household',
  })
})

describe('whoever was contacted in the days before', () => {
  const contacted = (days: number) => [{ at: ASOF - days * DAY, channel: 'phone' as const, by: 'tam' }]
  test('counts, though they are not on the list or held back, and takes the place of one more', () => {
    const people = [somebody(1, { contacts: contacted(9), relation: 'customer' }), somebody(2), somebody(3)]
    expect(clearOf(people, [...firstPolicy(), atMost(2, { days: 10 })]).ids('email')).toEqual([2])
    expect(clearOf(people, [...firstPolicy(), atMost(2, { days: 8 })]).ids('email')).toEqual([2, 3])
  })
  test('stays where nothing else holds them back, since they count already', () => {
    const people = [somebody(1), somebody(2, { contacts: contacted(40) }), somebody(3)]
    const { ids, account, columns } = clearOf(people, [...firstPolicy(), atMost(1, { days: 60 })])
    expect(ids('email')).toEqual([2])
    expect(account.waiting.get(columns.numberFor(3) as number)?.[0].evidence).toMatchObject({ behind: [2] })
  })
})
