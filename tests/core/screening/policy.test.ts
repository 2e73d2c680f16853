import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { CHANNELS } from '@/core/records/channels'
import { screeningAccount } from '@/core/screening/account'
import { clearByExactly } from '@/core/screening/ways'
import { differenceText, ruleDifferences } from '@/core/screening/differences'
import type { ScreeningMoment } from '@/core/screening/kind'
import { newRule } from '@/core/screening/new-rule'
import {
  firstPolicy,
  isOff,
  isOfSet,
  MOST_RULES,
  newRuleId,
  RULES,
  type Rule,
  type RuleName,
  ruleNamed,
  ruleText,
  validRules,
} from '@/core/screening/rules'
import { screenRecord } from '@/core/screening/screen-record'
import { columnsOf, directory, MOMENT } from '../../support/people'
import { letThrough, rules } from '../../support/lines'

const moment: ScreeningMoment = { ...MOMENT, exceptRounds: [3], letThrough: [] }
const NO_WAY: Rule = { id: 'no-way-to-reach', kind: 'no-way-to-reach' }

describe('a screening account', () => {
  test('each line adds up, by channel and for anyone, and the ways in which people are clear add up to anyone left', () => {
    fc.assert(
      fc.property(directory, rules, letThrough, (people, policy, through) => {
        const columns = columnsOf(people)
        const account = screeningAccount(columns.live, policy, columns, { ...moment, letThrough: through })
        const { figures } = account
        for (const channel of CHANNELS)
          expect(figures.opening - figures.rules.reduce((sum, { out }) => sum + out[channel], 0)).toBe(figures.clear[channel])
        expect(figures.opening - figures.rules.reduce((sum, rule) => sum + rule.anyoneOut, 0)).toBe(figures.anyone)
        expect(figures.ways.reduce((sum, { count }) => sum + count, 0)).toBe(figures.anyone)
        for (const { channels, count } of figures.ways) expect(clearByExactly(account.clear, channels).count()).toBe(count)
        expect(figures.rules.map(({ rule }) => rule)).toEqual(policy.map(({ id }) => id))
      }),
    )
  })

  test('what a rule closes alone is what it closes by itself; what only it closes is open without it', () => {
    fc.assert(
      fc.property(directory, rules, letThrough, (people, whole, through) => {
        const policy = whole.filter((rule) => !isOfSet(rule))
        const at = { ...moment, letThrough: through }
        const columns = columnsOf(people)
        const { figures } = screeningAccount(columns.live, policy, columns, at)
        const closed = (of: Rule[], channel: (typeof CHANNELS)[number]) =>
          people.filter((p) => {
            const verdict = screenRecord(p, of, at).channels[channel]
            return !verdict.open && verdict.rule !== NO_WAY.id
          })
        for (const [i, rule] of policy.entries()) {
          if (i === 0) continue
          for (const channel of CHANNELS) {
            expect(figures.rules[i].alone?.[channel], `${rule.id} alone by ${channel}`).toBe(closed([NO_WAY, rule], channel).length)
            const without = new Set(
              closed(
                policy.filter((own) => own !== rule),
                channel,
              ).map((p) => p.id),
            )
            const only = closed(policy, channel).filter((p) => !without.has(p.id))
            expect(figures.rules[i].onlyIt?.[channel], `only ${rule.id} by ${channel}`).toBe(only.length)
          }
        }
      }),
      { numRuns: 60 },
    )
  })

  test('where everybody has one address a channel, only it ≤ here ≤ alone', () => {
    fc.assert(
      fc.property(directory, rules, (people, policy) => {
        const single = people.map((p) => ({ ...p, addresses: CHANNELS.flatMap((c) => p.addresses.find((a) => a.channel === c) ?? []) }))
        const columns = columnsOf(single)
        for (const { out, alone, onlyIt } of screeningAccount(columns.live, policy, columns, moment).figures.rules)
          for (const channel of CHANNELS) {
            expect(onlyIt?.[channel]).toBeLessThanOrEqual(out[channel])
            expect(out[channel]).toBeLessThanOrEqual(alone?.[channel] as number)
          }
      }),
    )
  })

  test('the order of the rules says which one decides, never who is left', () => {
    fc.assert(
      fc.property(directory, rules, fc.infiniteStream(fc.nat(99)), (people, policy, places) => {
        const columns = columnsOf(people)
        const others = policy.slice(1).map((rule): [number, Rule] => [places.next().value as number, rule])
        const placed = others.sort(([a], [b]) => a - b).map(([, rule]) => rule)
        const turned = [policy[0], ...placed.filter((rule) => !isOfSet(rule)), ...policy.filter(isOfSet)]
        const [one, other] = [policy, turned].map((of) => screeningAccount(columns.live, of, columns, moment))
        expect(columns.toIds(other.anyone)).toEqual(columns.toIds(one.anyone))
        for (const channel of CHANNELS) expect(columns.toIds(other.clear[channel])).toEqual(columns.toIds(one.clear[channel]))
        for (const p of people)
          expect(screenRecord(p, turned, moment).heldBackBy === null).toBe(screenRecord(p, policy, moment).heldBackBy === null)
      }),
    )
  })
})

describe('rules of a policy', () => {
  test('a kind may stand more than once, each with its own id and channels', () => {
    const first = firstPolicy()
    const second = { ...newRule('contacted-within', first), days: 90, channels: ['post'] } as Rule
    expect(second.id).toBe('contacted-within-2')
    const policy = validRules([...first, second])
    expect(ruleNamed(policy, 'contacted-within-2')).toBe('Contacted in the last 90 days')
    expect(ruleNamed(policy, 'customers')).toBe('Customers and our own people')
    expect(newRuleId('contacted-within', policy)).toBe('contacted-within-3')
  })

  test.each(Object.keys(RULES) as RuleName[])('a new rule of kind %s is whole', (kind) => {
    const rule = newRule(kind, [])
    expect(RULES[kind].schema.validateSync(rule, { strict: true })).toEqual(rule)
    expect(isOff(rule)).toBe(false)
  })

  test.each([
    ['nothing', null, /the rules are missing/],
    ['an id that stands twice', [...firstPolicy(), { ...newRule('customers', []), id: 'another-round' }], /stands twice/],
    [
      'the id of a rule that cannot be left out',
      [NO_WAY, { ...newRule('customers', []), id: 'register' }],
      /its id “register” stands twice/,
    ],
    ['no way to reach elsewhere than first', [...firstPolicy().slice(1), NO_WAY], /stands first/],
    [
      'a legal rule for fewer channels',
      firstPolicy().map((r) => (r.id === 'asked-to-stop' ? { ...r, channels: ['post'] } : r)),
      /Asked us to stop/,
    ],
    ['a register left out', firstPolicy().filter((r) => r.id !== 'register'), /register: cannot be left out/],
    ['no channel at all', firstPolicy().map((r) => (r.id === 'customers' ? { ...r, channels: [] } : r)), /choose at least one channel/],
    ['a kind of the language itself', [{ id: 'x', kind: 'constructor' }], /no such rule: constructor/],
    ['an id of other letters', [NO_WAY, { ...newRule('customers', []), id: '<b>' }], /small letters/],
    ['too many', Array.from({ length: MOST_RULES + 1 }, () => NO_WAY), /more than 40/],
  ])('%s is refused', (_, raw, why) => {
    expect(() => validRules(raw)).toThrow(why)
  })

  test('a rule covers only the channels it names', () => {
    fc.assert(
      fc.property(directory, rules, (people, policy) => {
        for (const p of people)
          for (const channel of CHANNELS) {
            const verdict = screenRecord(p, policy, moment).channels[channel]
            if (verdict.open) continue
            const rule = policy.find(({ id }) => id === verdict.rule) as Rule
            if ('channels' in rule && rule.channels) expect(rule.channels).toContain(channel)
          }
      }),
    )
  })
})

describe('what differs between two editions', () => {
  const first = firstPolicy()
  const said = (after: Rule[]) => ruleDifferences(first, after).map((d) => differenceText(d, first, after))
  test.each([
    ['nothing', first, []],
    ['a register file that came in', first.map((r) => (r.kind === 'register' ? { ...r, version: '2026-06-01', goodFor: 28 } : r)), []],
    [
      'days',
      first.map((r) => (r.kind === 'contacted-within' ? { ...r, days: 21 } : r)),
      ['Contacted in the last 30 days: now contacted in the last 21 days'],
    ],
    [
      'channels',
      first.map((r): Rule => (r.kind === 'customers' ? { ...r, channels: ['phone'] } : r)),
      ['Customers and our own people: now customers and our own people, only phone'],
    ],
    [
      'one switched off',
      first.map((r) => (r.kind === 'customers' ? { ...r, off: true } : r)),
      ['Customers and our own people: switched off'],
    ],
    ['one removed', first.filter((r) => r.kind !== 'another-round'), ['In another open round: removed']],
    ['one added', [...first, { ...newRule('contacted-within', first), days: 90 } as Rule], ['Contacted in the last 90 days: added']],
    ['one moved', [...first.slice(0, 3), first[6], ...first.slice(3, 6)], ['In another open round: moved']],
  ])('%s', (_, after, expected) => {
    expect(said(after)).toEqual(expected)
  })

  test('a policy differs from itself in nothing; every rule that is in one alone is told', () => {
    fc.assert(
      fc.property(rules, rules, (one, other) => {
        expect(ruleDifferences(one, one)).toEqual([])
        const differences = ruleDifferences(one, other)
        const ids = (is: string) => differences.filter((d) => d.is === is).map((d) => d.rule.id)
        expect(ids('removed').sort()).toEqual(
          one
            .filter((r) => !other.some((o) => o.id === r.id))
            .map((r) => r.id)
            .sort(),
        )
        expect(ids('added').sort()).toEqual(
          other
            .filter((r) => !one.some((o) => o.id === r.id))
            .map((r) => r.id)
            .sort(),
        )
        // What did not move stands in the same order in both.
        const still = (of: Rule[]) => of.map((r) => r.id).filter((id) => !['removed', 'added', 'moved'].some((is) => ids(is).includes(id)))
        expect(still(other)).toEqual(still(one))
      }),
    )
  })
})

test.each([
  ['address-quality', 'Address quality: emails verified or uncertain, numbers any that is not wrong'],
  ['attempts', '4 attempts without an answer, the last within 60 days'],
  ['gone-quiet', 'Gone quiet: 6 emails over 180 days and nothing heard'],
  ['per-organisation', 'At most 3 of one organisation'],
  ['customers', 'Customers and our own people'],
] as const)('a new rule of kind %s reads as a sentence', (kind, said) => expect(ruleText(newRule(kind, []))).toBe(said))
