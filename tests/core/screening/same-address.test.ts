import fc from 'fast-check'
import { expect, test } from 'vitest'
import { CHANNELS, type Channel } from '@/core/records/channels'
import type { PersonRecord } from '@/core/records/person-record'
import { screeningAccount } from '@/core/screening/account'
import type { ScreeningMoment } from '@/core/screening/kind'
import { firstPolicy, isOfSet, type Rule } from '@/core/screening/rules'
import type { SameAddressRule } from '@/core/screening/same-address'
import { screenRecord } from '@/core/screening/screen-record'
import { letThrough, rules } from '../../support/lines'
import { blank, columnsOf, directory, MOMENT } from '../../support/people'

const moment: ScreeningMoment = { ...MOMENT, exceptRounds: [], letThrough: [] }
const once = (of: Partial<SameAddressRule> = {}): SameAddressRule => ({
  id: 'same-address',
  kind: 'same-address',
  off: false,
  colleagues: 'share an email only',
  first: 'longest in the directory',
  ...of,
})
const at = (id: number, channel: Channel, key: number) => ({ id, channel, usable: true, failedAt: null, suppressions: [], key })
const somebody = (id: number, addresses: PersonRecord['addresses'], of: Partial<PersonRecord> = {}): PersonRecord => ({
  ...blank,
  id,
  addresses,
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

test('a household gets one letter, and each of it is told by whom', () => {
  const people = [1, 2, 3].map((id) => somebody(id, [at(id, 'post', id < 3 ? 77 : 78), at(id + 10, 'email', id)]))
  const { ids, account, columns } = clearOf(people, [...firstPolicy(), once()])
  expect([ids('post'), ids('email')]).toEqual([
    [1, 3],
    [1, 2, 3],
  ])
  expect(account.waiting.get(columns.numberFor(2) as number)).toEqual([
    { rule: 'same-address', evidence: { kind: 'shares', channel: 'post', with: 1 }, channels: ['post'] },
  ])
  // Nobody is held back everywhere by it.
  expect(account.figures.rules.at(-1)).toMatchObject({ out: { email: 0, post: 1 }, anyoneOut: 0 })
})

test('colleagues share an inbox, but not by that a switchboard or an office, unless the rule says so', () => {
  const people = [1, 2].map((id) =>
    somebody(id, [at(id, 'post', 5), at(id + 10, 'phone', 6), at(id + 20, 'email', 7)], { organisation: 4 }),
  )
  const usual = clearOf(people, [...firstPolicy(), once()])
  expect([usual.ids('post'), usual.ids('phone'), usual.ids('email')]).toEqual([[1, 2], [1, 2], [1]])
  const strict = clearOf(people, [...firstPolicy(), once({ colleagues: 'share everything' })])
  expect([strict.ids('post'), strict.ids('phone'), strict.ids('email')]).toEqual([[1], [1], [1]])
})

test('whoever is held back keeps nobody waiting, and the address that counts is the first that is open', () => {
  const stopped = {
    ...at(1, 'email', 7),
    suppressions: [{ id: 1, reason: 'opt-out', channels: ['email'], since: 0, until: null }],
  } as const
  const people = [
    somebody(1, [{ ...stopped, channel: 'email', suppressions: stopped.suppressions.map((s) => ({ ...s, channels: [...s.channels] })) }]),
    somebody(2, [at(2, 'email', 7)]),
    // The first address failed, so that letters go to the second, which nobody else has.
    somebody(3, [{ ...at(3, 'email', 7), failedAt: 5 }, at(4, 'email', 8)]),
  ]
  expect(clearOf(people, [...firstPolicy(), once()]).ids('email')).toEqual([2, 3])
})

test('in a supplement nobody goes to an address its round went to, and the others of it wait behind whom it went to', () => {
  const people = [
    somebody(1, [at(1, 'post', 77), at(11, 'post', 79)]),
    somebody(2, [at(2, 'post', 77)]),
    somebody(3, [at(3, 'post', 77)]),
    // The round wrote to the first address, so the second is nobody's yet.
    somebody(4, [at(4, 'post', 79)]),
    somebody(5, [at(5, 'post', 77)], { organisation: 3 }),
  ]
  const seats = (channel: Channel) => ({ seats: { print: 'x', of: [{ person: 1, channel, address: 1 }] } })
  const { ids, account, columns } = clearOf(people, [...firstPolicy(), once()], [], seats('post'))
  expect(ids('post')).toEqual([4, 5])
  for (const id of [2, 3])
    expect(account.waiting.get(columns.numberFor(id) as number)?.[0].evidence).toEqual({ kind: 'shares', channel: 'post', with: 1 })
  // A seat on another channel takes no letter from anybody.
  expect(clearOf(people, [...firstPolicy(), once()], [], seats('email')).ids('post')).toEqual([2, 4, 5])
})

test('whoever waits can be let through', () => {
  const people = [1, 2].map((id) => somebody(id, [at(id, 'email', 7)]))
  expect(clearOf(people, [...firstPolicy(), once()], [{ person: 2, channel: 'email' }]).ids('email')).toEqual([1, 2])
})

test('no two stay at one address, and whoever waits is at the address of somebody who stays', () => {
  fc.assert(
    fc.property(
      directory,
      rules,
      letThrough,
      fc.constantFrom('share an email only', 'share everything'),
      (people, whole, through, colleagues) => {
        const policy = whole.filter((rule) => !isOfSet(rule))
        const { account, columns } = clearOf(
          people,
          [...policy, once({ colleagues: colleagues as SameAddressRule['colleagues'] })],
          through,
        )
        for (const channel of CHANNELS) {
          const goesTo = (p: PersonRecord) => {
            const verdict = screenRecord(p, policy, { ...moment, letThrough: through }).channels[channel]
            return verdict.open ? p.addresses.find((a) => a.id === verdict.address && a.channel === channel && a.usable) : undefined
          }
          const place = (p: PersonRecord) => {
            const key = goesTo(p)?.key
            const alone = p.organisation !== null && channel !== 'email' && colleagues === 'share an email only'
            return key ? `${key}${alone ? `|${p.id}` : ''}` : null
          }
          const passed = (p: PersonRecord) => through.some((t) => t.person === p.id && t.channel === channel)
          const clear = (p: PersonRecord) => account.clear[channel].has(columns.numberFor(p.id) as number)
          const sets = new Map<string, PersonRecord[]>()
          for (const p of people) {
            const own = place(p)
            if (own !== null) sets.set(own, [...(sets.get(own) ?? []), p])
            // Whoever is at no address that is known keeps what the other rules leave.
            else expect(clear(p)).toBe(goesTo(p) !== undefined)
          }
          for (const members of sets.values()) {
            expect(members.filter((p) => clear(p) && !passed(p)).length).toBeLessThanOrEqual(1)
            expect(clear(members[0])).toBe(true)
          }
        }
      },
    ),
  )
})
