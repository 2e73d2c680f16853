import { glanceAt, glanceOf, stripOf } from '@/core/screening/glance'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { PersonRecord } from '@/core/records/person-record'
import { screeningAccount } from '@/core/screening/account'
import type { ScreeningMoment } from '@/core/screening/kind'
import { goodThrough } from '@/core/screening/register'
import { firstPolicy, isOfSet, type Rule, validRules } from '@/core/screening/rules'
import { screenedAt, screenRecord, withWaiting } from '@/core/screening/screen-record'
import { ASOF, blank, columnsOf, DAY, directory, MOMENT } from '../../support/people'
import { letThrough, rules } from '../../support/lines'
import { type Channel, CHANNELS } from '@/core/records/channels'
import { isFinalReason, type Reason, REASONS } from '@/core/records/suppression'

const moment: ScreeningMoment = { ...MOMENT, exceptRounds: [3], letThrough: [] }

test('invariant 1, channel by channel: every rule’s balance before − out is its balance, and clear is the last', () => {
  fc.assert(
    fc.property(directory, rules, (people, policy) => {
      const columns = columnsOf(people)
      const { figures } = screeningAccount(columns.live, policy, columns, moment)
      for (const channel of CHANNELS) {
        let balance = figures.opening
        for (const rule of figures.rules) {
          expect(balance - rule.out[channel]).toBe(rule.balance[channel])
          balance = rule.balance[channel]
        }
        expect(figures.clear[channel]).toBe(balance)
      }
      const held = figures.rules.reduce((sum, rule) => sum + rule.anyoneOut, 0)
      expect(figures.opening - held).toBe(figures.anyone)
      expect(figures.heldBack).toBe(held)
    }),
    { numRuns: 300 },
  )
})

test('the screening of one record and that over columns agree: channel, deciding rule and address', () => {
  fc.assert(
    fc.property(directory, rules, letThrough, (people, policy, through) => {
      const columns = columnsOf(people)
      const now = { ...moment, letThrough: through }
      const account = screeningAccount(columns.live, policy, columns, now)
      for (const p of people) {
        const n = columns.numberFor(p.id) as number
        const alone = screenRecord(p, policy, now)
        const passed = through.filter((own) => own.person === p.id).map(({ channel }) => channel)
        const verdict = withWaiting(alone, account.waiting.get(n), passed)
        // The record read back out of the columns is screened alike, evidence and all.
        expect(screenRecord(screenedAt(columns, n), policy, now)).toEqual(alone)
        expect(glanceAt(columns, n, now)).toEqual(glanceOf(p, now))
        for (const channel of CHANNELS) {
          const of = verdict.channels[channel]
          expect(account.clear[channel].has(n)).toBe(of.open)
          if (!of.open) expect(account.rules.find((r) => r.closed[channel].has(n))?.rule).toBe(of.rule)
        }
        expect(account.anyone.has(n)).toBe(verdict.heldBackBy === null)
        if (verdict.heldBackBy !== null) expect(account.rules.find((r) => r.heldBack.has(n))?.rule).toBe(verdict.heldBackBy)
      }
    }),
    { numRuns: 400 },
  )
})

const somebody = (id: number, rest: Partial<PersonRecord> = {}): PersonRecord => ({ ...blank, id, ...rest })
const address = (id: number, channel: 'email' | 'phone' | 'post', suppressions: PersonRecord['suppressions'] = []) => ({
  id,
  channel,
  usable: true,
  failedAt: null,
  suppressions,
})
const since = (reason: Reason, rest = {}) => ({
  id: 1,
  reason,
  channels: [...CHANNELS],
  since: ASOF - DAY,
  until: null,
  ...rest,
})
const policy = (version: string | null = '2026-06-01'): Rule[] => firstPolicy().map((r) => (r.kind === 'register' ? { ...r, version } : r))

test('of 276 in an area with 155 on the register, 276 can be mailed and 121 called (one team’s figures, no source)', () => {
  const people = Array.from({ length: 276 }, (_, i) =>
    somebody(i + 1, {
      addresses: [address(i * 2, 'post'), address(i * 2 + 1, 'phone', i < 155 ? [since('register', { channels: ['phone'] })] : [])],
    }),
  )
  const columns = columnsOf(people)
  expect(screeningAccount(columns.live, policy(), columns, moment).figures.clear).toEqual({ email: 0, phone: 121, post: 276, direct: 0 })
})

test('a suppression never clears whom it touches; others change only where they waited behind them', () => {
  // What a register closes is for its own rule to say, which spares whoever has an established relationship.
  const added = fc.record({
    who: fc.nat(59),
    reason: fc.constantFrom(...REASONS.filter((reason) => reason !== 'register')),
    channels: fc.subarray([...CHANNELS], { minLength: 1 }),
  })
  fc.assert(
    fc.property(directory, rules, letThrough, added, (people, policy, through, { who, reason, channels }) => {
      const touched = people[who % people.length]
      if (!touched) return
      const at = { ...moment, letThrough: through }
      const suppressions = [...touched.suppressions, since(reason, { channels })]
      const [before, after] = [people, people.map((p) => (p === touched ? { ...p, suppressions } : p))].map((all) => {
        const columns = columnsOf(all)
        const { clear, rules: sets } = screeningAccount(columns.live, policy, columns, at)
        const waited = (channel: Channel) => policy.flatMap((rule, i) => (isOfSet(rule) ? columns.toIds(sets[i].closed[channel]) : []))
        return { clear: (channel: Channel) => columns.toIds(clear[channel]), waited }
      })
      for (const channel of CHANNELS) {
        const [was, is] = [before.clear(channel), after.clear(channel)]
        const spared = !isFinalReason(reason) && through.some((own) => own.person === touched.id && own.channel === channel)
        if (channels.includes(channel) && !spared) expect(is).not.toContain(touched.id)
        if (!was.includes(touched.id) && !before.waited(channel).includes(touched.id)) expect(is).not.toContain(touched.id)
        // Whoever is clear now and was not before waited; whoever is not any more is the one it touches.
        for (const id of is.filter((own) => !was.includes(own))) expect(before.waited(channel)).toContain(id)
        if (!policy.some(isOfSet)) expect(was.filter((own) => !is.includes(own) && own !== touched.id)).toEqual([])
      }
    }),
    { numRuns: 300 },
  )
})

test('a suppression that comes, ends or goes after a screening counts at the next one', () => {
  const columns = columnsOf([somebody(1, { addresses: [address(1, 'post')] }), somebody(2, { addresses: [address(2, 'post')] })])
  const clear = (asOf = moment.asOf) => columns.toIds(screeningAccount(columns.live, policy(), columns, { ...moment, asOf }).clear.post)
  expect(clear()).toEqual([1, 2])
  columns.put(somebody(2, { addresses: [address(2, 'post', [since('opt-out')])] }))
  expect(clear()).toEqual([1])
  columns.put(somebody(1, { addresses: [address(1, 'post')], suppressions: [since('other', { until: ASOF + DAY })] }))
  expect(clear()).toEqual([])
  expect(clear(moment.asOf + 2 * DAY)).toEqual([1])
  columns.put(somebody(2, { addresses: [address(2, 'post')] }))
  expect(clear()).toEqual([2])
})

describe('a register file', () => {
  // 16 CFR 310.4(b)(3)(iv): a version obtained no more than 31 days before the call.
  test('of 1 January 2026 is good through 1 February 2026', () => expect(goodThrough('2026-01-01', 31)).toBe('2026-02-01'))

  const caller = somebody(1, { addresses: [address(1, 'phone'), address(2, 'post')] })
  const at = (iso: string) => ({ ...moment, asOf: Date.parse(iso) })
  test('on its last good day phones are open, the day after they are held back and post stays', () => {
    expect(screenRecord(caller, policy('2026-01-01'), at('2026-02-01T20:00:00Z')).channels.phone.open).toBe(true)
    const late = screenRecord(caller, policy('2026-01-01'), at('2026-02-02T08:00:00Z'))
    expect(late.channels.phone).toMatchObject({
      open: false,
      rule: 'register',
      evidence: { kind: 'register-out-of-date', version: '2026-01-01' },
    })
    expect(late.channels.post.open).toBe(true)
  })
  test('its day ends by the clock of the list’s zone', () => {
    // 23:30 UTC of 1 July is 00:30 of the 2nd in London.
    expect(screenRecord(caller, policy('2026-05-31'), at('2026-07-01T22:30:00Z')).channels.phone.open).toBe(true)
    expect(screenRecord(caller, policy('2026-05-31'), at('2026-07-01T23:30:00Z')).channels.phone.open).toBe(false)
  })
})

describe('suppressions', () => {
  const screened = (p: PersonRecord) => screenRecord(p, policy(), moment)
  test('one of two emails closed leaves the channel open by the other', () => {
    const verdict = screened(somebody(1, { addresses: [address(7, 'email', [since('opt-out')]), address(8, 'email')] }))
    expect(verdict.channels.email).toEqual({ open: true, address: 8 })
  })
  test('not before it begins and not from its end on', () => {
    const p = (rest: object) => somebody(1, { addresses: [address(1, 'email')], suppressions: [since('other', rest)] })
    expect(screened(p({ since: ASOF + 1 })).channels.email.open).toBe(true)
    expect(screened(p({ since: ASOF })).channels.email.open).toBe(false)
    expect(screened(p({ until: ASOF })).channels.email.open).toBe(true)
    expect(screened(p({ until: ASOF + 1 })).channels.email.open).toBe(false)
  })
  test('only the channels it names', () => {
    const verdict = screened(
      somebody(1, { addresses: [address(1, 'email'), address(2, 'post')], suppressions: [since('opt-out', { channels: ['email'] })] }),
    )
    expect([verdict.channels.email.open, verdict.channels.post.open]).toEqual([false, true])
  })
})

test('contacts to come of an open round count, those of the round that is being ended do not', () => {
  const p = (round: number) =>
    somebody(1, { addresses: [address(1, 'email')], toCome: [{ round, channel: 'email', since: ASOF - 200 * DAY }] })
  expect(screenRecord(p(2), policy(), moment).evidence).toEqual({ kind: 'contact-to-come', round: 2, channel: 'email' })
  expect(screenRecord(p(3), policy(), moment).heldBackBy).toBeNull()
})

test('an unknown relation stays; a customer is held back', () => {
  expect(screenRecord(somebody(1, { addresses: [address(1, 'post')] }), policy(), moment).heldBackBy).toBeNull()
  expect(screenRecord(somebody(1, { addresses: [address(1, 'post')], relation: 'customer' }), policy(), moment)).toMatchObject({
    heldBackBy: 'customers',
    evidence: { kind: 'relation', relation: 'customer' },
  })
})

test('rules from outside are checked: none that the law asks for can be left out or switched off', () => {
  expect(validRules(JSON.parse(JSON.stringify(firstPolicy())))).toEqual(firstPolicy())
  expect(() => validRules(firstPolicy().filter((r) => r.kind !== 'register'))).toThrow(/register: cannot be left out/)
  expect(() => validRules(firstPolicy().map((r) => (r.kind === 'asked-to-stop' ? { ...r, off: true } : r)))).toThrow(/Asked us to stop/)
  expect(() => validRules([...firstPolicy(), { id: 'customers', kind: 'customers', off: true, relations: ['customer'] }])).toThrow(
    /stands twice/,
  )
})

describe('let through', () => {
  const through = (p: PersonRecord, channel: 'email' | 'phone' | 'post') =>
    screenRecord(p, policy(), { ...moment, letThrough: [{ person: p.id, channel }] })
  test('opens what rules of our own closed, for that channel alone', () => {
    const p = somebody(1, { relation: 'customer', addresses: [address(1, 'email'), address(2, 'post')] })
    expect(through(p, 'post').channels.post).toEqual({ open: true, address: 2 })
    expect(through(p, 'post').channels.email).toMatchObject({ open: false, rule: 'customers' })
  })
  test('never what an opt-out, a complaint, a register or a missing address closed', () => {
    fc.assert(
      fc.property(directory, rules, letThrough, (people, rest, let1) => {
        for (const p of people) {
          const before = screenRecord(p, rest, moment)
          const after = screenRecord(p, rest, { ...moment, letThrough: let1 })
          for (const channel of CHANNELS) {
            if (before.channels[channel].open || !after.channels[channel].open) continue
            const stands = [
              ...p.suppressions,
              ...p.addresses
                .filter((a) => a.id === (after.channels[channel] as { address: number }).address)
                .flatMap((a) => a.suppressions),
            ]
            const final = stands.filter(
              (s) =>
                isFinalReason(s.reason) &&
                s.reason !== 'register' &&
                s.channels.includes(channel) &&
                s.since <= ASOF &&
                (s.until === null || ASOF < s.until),
            )
            expect(final.length === 0 || p.addresses.filter((a) => a.channel === channel).length > 1).toBe(true)
          }
        }
      }),
    )
    const p = somebody(1, { addresses: [address(1, 'phone', [since('register', { channels: ['phone'] })])] })
    expect(through(p, 'phone').channels.phone.open).toBe(false)
    expect(
      through(somebody(1, { suppressions: [since('opt-out'), since('other')], addresses: [address(1, 'email')] }), 'email').channels.email,
    ).toMatchObject({ open: false, evidence: { reason: 'opt-out' } })
    expect(through(somebody(1, { suppressions: [since('other')], addresses: [address(1, 'email')] }), 'email').channels.email.open).toBe(
      true,
    )
  })
})

test('an address that failed is closed, and another of the same kind takes over', () => {
  const p = somebody(1, {
    addresses: [{ ...address(1, 'email'), failedAt: ASOF - DAY }, address(2, 'email'), { ...address(3, 'post'), failedAt: ASOF - DAY }],
  })
  const verdict = screenRecord(p, policy(), moment)
  expect(verdict.channels.email).toEqual({ open: true, address: 2 })
  expect(verdict.channels.post).toMatchObject({ open: false, rule: 'address-failed', evidence: { kind: 'failed', address: 3 } })
})

test('a meeting counts only for a rule that says so', () => {
  const p = somebody(1, { addresses: [address(1, 'email')], contacts: [{ at: ASOF - DAY, channel: 'met', by: 'ines' }] })
  const withWays = (ways: ('met' | 'email')[]) => policy().map((r) => (r.kind === 'contacted-within' ? { ...r, ways } : r))
  expect(screenRecord(p, policy(), moment).heldBackBy).toBeNull()
  expect(screenRecord(p, withWays(['met']), moment).evidence).toMatchObject({ kind: 'contact', channel: 'met' })
})

test('the contacts of a year are drawn in one order, whatever order they are held in', () => {
  const day = 86_400_000
  const asOf = 400 * day
  const contacts = (['post', 'phone', 'email', 'met'] as const).flatMap((channel) => [
    { at: asOf - 3 * day, channel },
    { at: asOf - day, channel },
    { at: asOf - 366 * day, channel },
  ])
  const drawn = stripOf(contacts, asOf)
  expect(drawn.map(([days]) => days)).toEqual([1, 1, 1, 1, 3, 3, 3, 3])
  fc.assert(
    fc.property(fc.shuffledSubarray(contacts, { minLength: contacts.length }), (others) => {
      expect(stripOf(others, asOf)).toEqual(drawn)
    }),
  )
})
