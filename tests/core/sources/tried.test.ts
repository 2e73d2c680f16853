import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { Answers } from '@/core/criteria/registry'
import { listAccount } from '@/core/lists/account'
import type { Line } from '@/core/lists/line'
import type { OrganisationRecord } from '@/core/records/organisation-record'
import type { PersonRecord } from '@/core/records/person-record'
import { CHANNELS } from '@/core/records/channels'
import { asRecord, tried } from '@/core/sources/tried'
import { columnsOf, MOMENT, person } from '../../support/people'
import { momentFor, plainPage } from '../../support/lines'

const FOUND = { key: 'B1', name: 'North School', kind: 'school', subKind: 'primary', district: 'Thornmouth', postcode: 'PW1 2AB', has: [] }

/** Somebody as they are once they are paid for and in: with all that may be known of them, and nothing that only time brings. */
const justIn = person
  .filter((p) => p.employer != null)
  .map((p): PersonRecord & { employer: OrganisationRecord } => {
    const employer = { ...(p.employer as OrganisationRecord), people: 1 }
    return {
      ...p,
      id: 1,
      town: employer.town,
      postcode: employer.postcode,
      relation: null,
      tags: [],
      contacts: [],
      toCome: [],
      rounds: [],
      batches: [],
      suppressions: [],
      changedAt: null,
      addresses: p.addresses.map(({ softAt: _, ...a }) => ({
        ...a,
        usable: true,
        failedAt: null,
        suppressions: [],
        // Nobody has called them yet.
        ...(a.channel === 'phone' ? { traits: { shared: a.traits?.shared ?? false, state: 'not tried' as const } } : {}),
      })),
      employer,
    }
  })

test('whoever a list is said to take is on it once they are in, and whoever it is said to leave out is not, whatever comes with what is paid for', () => {
  let [on, out, open] = [0, 0, 0]
  fc.assert(
    fc.property(justIn, plainPage, (p, all) => {
      const lines = all.filter((line) => line.verb !== 'pick')
      const columns = columnsOf([p])
      const moment = momentFor(columns)
      const truth = listAccount(lines, columns, new Answers(columns.directory), moment).on.has(columns.numberFor(1) as number)
      const found = {
        ...FOUND,
        name: p.employer.name,
        kind: p.employer.industry ?? '',
        district: p.town ?? '',
        postcode: p.postcode ?? '',
        has: CHANNELS.filter((channel) => p.addresses.some((a) => a.channel === channel)),
      }
      const outcome = tried(asRecord(found, 1, 'person'), lines, moment, 'person')
      if (outcome.is === 'on') expect(truth).toBe(true)
      if (outcome.is === 'out') expect(truth).toBe(false)
      outcome.is === 'on' ? on++ : outcome.is === 'out' ? out++ : open++
    }),
    { numRuns: 700 },
  )
  // Each of the three is told often, or the test would show nothing.
  expect(Math.min(on, out, open)).toBeGreaterThan(20)
})

describe('what a line makes of something found', () => {
  const start: Line = { id: 's', verb: 'start', off: false, batch: null }
  const line = (verb: 'keep' | 'drop' | 'add', criterion: object, more = {}) =>
    ({ id: verb, verb, off: false, unknownAsYes: false, criterion, ...more }) as Line
  const school = { kind: 'industry', any: ['school'] }
  const estates = { kind: 'role', any: ['estates'] }
  const customer = { kind: 'relation', any: ['customer'] }
  const of = (...lines: Line[]) => tried(asRecord(FOUND, 1, 'person'), [start, ...lines], MOMENT, 'person')

  test.each([
    ['what is known of it before it is paid for', [line('keep', school)], { is: 'on' }],
    ['what it is not', [line('drop', school)], { is: 'out', line: 1 }],
    ['what comes with what is paid for', [line('keep', estates)], { is: 'open', line: 1 }],
    [
      'the same, where the unknown may stay: it may still say something else',
      [line('keep', estates, { unknownAsYes: true })],
      { is: 'open', line: 1 },
    ],
    ['a line that is sure after one that cannot be told', [line('keep', estates), line('drop', school)], { is: 'out', line: 2 }],
    ['what nobody who has just come in has', [line('keep', customer)], { is: 'out', line: 1 }],
    ['the same, where the unknown may stay', [line('keep', customer, { unknownAsYes: true })], { is: 'on' }],
    ['the same, of a drop', [line('drop', customer)], { is: 'on' }],
    ['who comes back by a later line', [line('drop', school), line('add', school)], { is: 'on' }],
    ['who may come back', [line('drop', school), line('add', estates)], { is: 'open', line: 2 }],
    ['a line that is off', [line('drop', school, { off: true })], { is: 'on' }],
    ['another list', [line('keep', { kind: 'list', list: { id: 3, name: 'Others' }, edition: null })], { is: 'open', line: 1 }],
  ] as const)('%s', (_, lines, outcome) => expect(of(...lines)).toEqual(outcome))

  test('a number is not told to be their own before it is paid for', () => {
    const ways = (...all: string[]) => line('keep', { kind: 'reachable', ways: all, wanted: 'any', checkedWithin: null })
    const withPhone = asRecord({ ...FOUND, has: ['phone', 'post'] }, 1, 'person')
    const made = (...lines: Line[]) => tried(withPhone, [start, ...lines], MOMENT, 'person')
    expect(made(ways('a phone of their own'))).toEqual({ is: 'open', line: 1 })
    expect(made(ways('a phone of their own', 'a postal address'))).toEqual({ is: 'on' })
    expect(made(ways('a work e-mail'))).toEqual({ is: 'out', line: 1 })
    const both = { every: true, parts: [school, { kind: 'reachable', ways: ['a phone of their own'], wanted: 'any', checkedWithin: null }] }
    expect(made(line('keep', { kind: 'together', ...both }))).toEqual({ is: 'open', line: 1 })
    expect(made(line('drop', { kind: 'together', ...both, every: false }))).toEqual({ is: 'out', line: 1 })
  })

  test('a list that begins with one file takes in nobody who comes later', () => {
    const batch: Line = { ...start, batch: { id: 4, name: 'fair.csv' } } as Line
    expect(tried(asRecord(FOUND, 1, 'person'), [batch], MOMENT, 'person')).toEqual({ is: 'out', line: 0 })
  })
})
