import fc from 'fast-check'
import type { PeopleColumns } from '@/core/columns/people-columns'
import { FUNCTIONS, LEVELS } from '@/core/clean/role'
import { BAND_NAMES } from '@/core/criteria/head-count'
import type { Form, Moment } from '@/core/criteria/kind'
import { CRITERIA, type Criterion, fits, type Question, questionsOf } from '@/core/criteria/registry'
import { REACHES } from '@/core/criteria/reachable'
import { type Line, PERS, pickKey } from '@/core/lists/line'
import { RANKS } from '@/core/lists/rank'
import { GROUPS } from '@/core/records/person-record'
import { FIRST } from '@/core/screening/ranked'
import { isOfSet, newRuleId, type Rule, type RuleName } from '@/core/screening/rules'
import { CHANNELS, WAYS } from '@/core/records/channels'
import { RELATIONS } from '@/core/records/relations'
import type { Subject } from '@/core/records/subject'
import { AREAS } from './areas'
import { changedCriterion } from './changed'
import { OF_SETTINGS } from './rule-settings'
import { MOMENT, ROUNDS, ACTORS, TOWNS, INDUSTRIES, COUNTIES, TAGS } from './people'

/** Another list that is named: ids divisible by three. Two sets of people who were picked: even ids, and the first ten. */
const NAMED = { 'list:50:latest': (id: number) => id % 3 === 0, 'pick:1': (id: number) => id % 2 === 0, 'pick:2': (id: number) => id <= 10 }

/** The moment with everything that generated lines name at hand. */
export function momentFor(columns: PeopleColumns): Moment {
  const members = new Map(
    Object.entries(NAMED).map(([key, has]) => [
      key,
      { has, set: columns.numbers(Array.from({ length: 80 }, (_, i) => i + 1).filter(has)) },
    ]),
  )
  return { ...MOMENT, ...ROUNDS, members, areas: new Map(AREAS.map((shape, i) => [i + 1, shape])) }
}
export const pickedHas = (line: Extract<Line, { verb: 'pick' }>, id: number): boolean => NAMED[pickKey(line) as 'pick:1'](id)

const question: fc.Arbitrary<Criterion> = fc.oneof(
  fc
    .uniqueArray(fc.constantFrom('estates', 'facility', 'trainee', 'head of facilities', 'directrice generale'), {
      minLength: 1,
      maxLength: 3,
    })
    .map((any) => ({ kind: 'role' as const, any })),
  fc.constantFrom<Criterion>(
    { kind: 'role', any: ['estates', 'facilities'], not: ['trainee', 'secretary to'] },
    { kind: 'role', any: ['head of estates'], not: [], named: { id: 1, name: 'head of estates' } },
  ),
  fc
    .record({ towns: fc.subarray([...TOWNS, 'LOW  WENDLE']), postcodes: fc.subarray(['PW1', 'pw12 3', 'PW']) })
    .filter((p) => p.towns.length + p.postcodes.length > 0)
    .map((p) => ({ kind: 'place' as const, ...p })),
  fc.constantFrom(...CHANNELS).map((channel) => ({ kind: 'reach' as const, channel })),
  fc.subarray([...RELATIONS], { minLength: 1 }).map((any) => ({ kind: 'relation' as const, any })),
  fc.subarray([...LEVELS], { minLength: 1 }).map((any) => ({ kind: 'level' as const, any })),
  fc.subarray([...FUNCTIONS], { minLength: 1 }).map((any) => ({ kind: 'function' as const, any })),
  fc
    .record({
      by: fc.option(fc.constantFrom(...ACTORS).map((id) => ({ id, name: id }))),
      how: fc.constantFrom('never' as const, 'before' as const, 'within' as const),
      days: fc.integer({ min: 1, max: 150 }),
      ways: fc.option(fc.subarray([...WAYS], { minLength: 1 }), { nil: undefined }),
    })
    .map(({ by, how, days, ways }) => ({
      kind: 'contacted' as const,
      how,
      by,
      ...(ways ? { ways } : {}),
      ...(how === 'within' ? { days } : how === 'before' ? { date: '2026-04-01' } : {}),
    })),
  fc.subarray([...INDUSTRIES, 'CLINIC'], { minLength: 1 }).map((any) => ({ kind: 'industry' as const, any })),
  fc.subarray(COUNTIES, { minLength: 1 }).map((any) => ({ kind: 'county' as const, any })),
  fc.subarray(TAGS, { minLength: 1 }).map((any) => ({ kind: 'tag' as const, any })),
  fc.constantFrom<Criterion>(
    { kind: 'custom', field: { id: 1, name: 'Roof', of: 'text' }, any: ['roof', 'large roof'].slice(1), least: null, most: null },
    { kind: 'custom', field: { id: 2, name: 'Beds', of: 'number' }, any: [], least: '-3.5', most: '50' },
    { kind: 'custom', field: { id: 3, name: 'Seen', of: 'date' }, any: [], least: '2026-01-01', most: null },
    { kind: 'custom', field: { id: 4, name: 'Garden', of: 'yes or no' }, any: ['yes'], least: null, most: null },
    { kind: 'custom', field: { id: 5, name: 'Never used', of: 'choice' }, any: ['a'], least: null, most: null },
  ),
  fc.subarray(BAND_NAMES, { minLength: 1 }).map((any) => ({ kind: 'head-count' as const, any })),
  fc.integer({ min: 1, max: 4 }).map((id) => ({ kind: 'batch' as const, batch: { id, name: `batch ${id}` } })),
  fc
    .record({
      list: fc.integer({ min: 7, max: 9 }),
      which: fc.constantFrom('any' as const, 'last' as const, 1, 3),
      stood: fc.constantFrom('listed' as const, 'clear' as const, 'held back' as const),
    })
    .map(({ list, ...rest }) => ({ kind: 'round' as const, list: { id: list, name: `list ${list}` }, ...rest })),
  fc.constant({ kind: 'list' as const, list: { id: 50, name: 'another' }, edition: null }),
  fc.constant<Criterion>({ kind: 'any-list', lists: [{ id: 50, name: 'another' }] }),
  fc
    .subarray([1, 2, 3], { minLength: 1 })
    .map((ids): Criterion => ({ kind: 'area', areas: ids.map((id) => ({ id, name: `area ${id}` })) })),
  fc.integer({ min: 1, max: 20_000 }).map((metres): Criterion => ({ kind: 'near', metres, lat: 55.3, lon: 1.5, name: '' })),
  fc.constantFrom<Criterion>(
    { kind: 'street', streets: [{ street: 'Mill Lane', from: 12, to: 12, side: 'both' }] },
    {
      kind: 'street',
      streets: [
        { street: 'Weir Street', from: null, to: null, side: 'odd' },
        { street: 'station road', from: null, to: null, side: 'both' },
      ],
    },
  ),
  fc
    .record({
      ways: fc.subarray([...REACHES], { minLength: 1, maxLength: 4 }),
      wanted: fc.constantFrom('any' as const, 'all' as const),
      checkedWithin: fc.option(fc.constant(90)),
    })
    .map((c): Criterion => ({ kind: 'reachable', ...c })),
  fc
    .record({
      least: fc.option(fc.nat(2)),
      most: fc.option(fc.integer({ min: 2, max: 4 })),
      days: fc.option(fc.constant(100)),
      results: fc.subarray(['spoke', 'sent'] as const),
      by: fc.option(fc.constantFrom(...ACTORS).map((id) => ({ id, name: id }))),
    })
    .filter((c) => c.least !== null || c.most !== null)
    .map((c): Criterion => ({ kind: 'contact-count', ...c })),
  fc
    .record({
      sign: fc.constantFrom('interest' as const, 'answer' as const),
      how: fc.constantFrom('never' as const, 'within' as const, 'longer ago' as const),
    })
    .map((c): Criterion => ({ kind: 'interest', ...c, days: c.how === 'never' ? null : 90 })),
  changedCriterion,
  fc
    .record({
      as: fc.constantFrom('equity' as const, 'loan-to-value' as const),
      least: fc.option(fc.constantFrom(40, 60)),
      most: fc.option(fc.constantFrom(60, 100)),
    })
    .filter((c) => c.least !== null || c.most !== null)
    .map((c): Criterion => ({ kind: 'equity', ...c })),
  fc
    .record({ least: fc.constantFrom(1, 2), most: fc.option(fc.constantFrom(2, 3)), months: fc.option(fc.constantFrom(12, 36)) })
    .map((c): Criterion => ({ kind: 'holdings', ...c })),
  fc.constantFrom(...Object.entries(CRITERIA).flatMap(([kind, { form }]): Criterion[] => factsOf(kind, form))),
)

/** A criterion of any kind; now and then some questions at once. */
export const criterion: fc.Arbitrary<Criterion> = fc.oneof(
  { weight: 9, arbitrary: question },
  {
    weight: 1,
    arbitrary: fc
      .record({ every: fc.boolean(), parts: fc.array(question as fc.Arbitrary<Question>, { minLength: 2, maxLength: 4 }) })
      .map((c): Criterion => ({ kind: 'together', ...c })),
  },
)

/** A criterion that a list of a subject can ask. */
export const criterionOf = (subject: Subject): fc.Arbitrary<Criterion> =>
  criterion.filter((c) => questionsOf(c).every(({ kind }) => fits(kind, subject)))

/** Some questions of each kind of criterion that is one fact, by the form it is asked with. */
function factsOf(kind: string, form: Form | undefined): Criterion[] {
  const made = (): object[] => {
    switch (form?.of) {
      case 'choices':
        return [{ any: form.all.slice(0, 1) }, { any: form.all.slice(1, 3) }]
      case 'words':
        if (kind === 'industry-code') return [{ any: ['NAICS 61'] }, { any: ['C', '31'] }]
        return [
          { any: ['english', 'ines', 'sedge brewery', 'north', 'MARLE', 'house'] },
          { any: ['Brackenfold Rainworks', 'sedge.example', 'nobody'] },
        ]
      case 'says':
        return [
          { any: ['gutter', 'school'], all: [], none: ['never'] },
          { any: [], all: ['roof', 'large'], none: [] },
          { any: ['walled garden', 'estates'], all: [], none: [] },
        ]
      case 'range':
        return [
          { least: 3, most: null },
          { least: null, most: 400 },
          { least: 0, most: 2000 },
        ]
      case 'time':
        return [
          { least: 12, most: null, from: null, to: null },
          { least: null, most: 24, from: null, to: null },
          { least: null, most: null, from: '2024-06-15', to: '2026-05-16' },
        ]
      default:
        return []
    }
  }
  return made().map((rest) => ({ kind, ...rest }) as Criterion)
}

const off = fc.boolean()
const criterionLine = fc
  .record({ verb: fc.constantFrom('keep' as const, 'drop' as const, 'add' as const), off, unknownAsYes: fc.boolean(), criterion })
  .map((l) => ({ ...l, unknownAsYes: l.verb === 'keep' && l.unknownAsYes }))
const limitLine = fc.record({
  verb: fc.constant('limit' as const),
  off,
  most: fc.integer({ min: 1, max: 20 }),
  per: fc.constantFrom(...PERS),
  rank: fc.constantFrom(...RANKS),
  seed: fc.nat(9),
})
const pickLine = fc.record({
  verb: fc.constant('pick' as const),
  off,
  side: fc.constantFrom('in' as const, 'out' as const),
  set: fc.constantFrom({ id: 1, count: 30 }, { id: 2, count: 10 }),
  names: fc.constant(['Maud Ellery']),
  reason: fc.constant(''),
  until: fc.option(fc.constantFrom('2026-06-14', '2026-06-15')),
  by: fc.constant('Ines Okafor'),
})

const pageOf = (line: fc.Arbitrary<Record<string, unknown> & { off: boolean }>): fc.Arbitrary<Line[]> =>
  fc
    .tuple(fc.option(fc.integer({ min: 1, max: 4 }).map((id) => ({ id, name: `batch ${id}` }))), fc.array(line, { maxLength: 7 }))
    .map(([batch, lines]) => [
      { id: 'start', verb: 'start' as const, off: false, batch },
      ...lines.map((l, i) => ({ ...l, off: l.off && i % 2 === 0, id: `line-${i}` }) as Line),
    ])

/** A page of lines that can be read for one record alone: a start, then any but limits, some of them switched off. */
export const plainPage = pageOf(fc.oneof({ weight: 4, arbitrary: criterionLine }, { weight: 1, arbitrary: pickLine }))
/** A whole page: any lines. */
export const page = pageOf(
  fc.oneof({ weight: 5, arbitrary: criterionLine }, { weight: 1, arbitrary: pickLine }, { weight: 1, arbitrary: limitLine }),
)

const first = fc.constantFrom(...FIRST)
const covers = fc.option(fc.subarray([...CHANNELS], { minLength: 1 }), { nil: undefined }).map((channels) => (channels ? { channels } : {}))
const countries = fc
  .option(fc.subarray(['GB', 'US', 'DE'], { minLength: 1 }), { nil: undefined })
  .map((of) => (of ? { countries: of } : {}))
const closes = fc.constantFrom('every channel' as const, 'the same channel' as const)
/** A rule of each kind that may be left out, with any settings; a kind that has none does not compile. */
const OPTIONAL: { [K in Exclude<RuleName, 'no-way-to-reach' | 'asked-to-stop' | 'register'>]: fc.Arbitrary<object> } = {
  'address-failed': fc
    .record({
      off,
      days: fc.option(fc.constantFrom(8, 9, 30), { nil: undefined }),
      soft: fc.option(fc.integer({ min: 2, max: 3 }), { nil: undefined }),
      softDays: fc.integer({ min: 1, max: 60 }),
    })
    .map(({ days, soft, ...rest }) => ({ ...rest, ...(days ? { days } : {}), ...(soft ? { soft } : {}) })),
  'address-quality': fc
    .record({
      off,
      emails: fc.constantFrom('any that is not bad', 'verified or uncertain', 'verified'),
      phones: fc.constantFrom('any that is not wrong', 'reached'),
      days: fc.option(fc.integer({ min: 1, max: 400 }), { nil: undefined }),
      unknown: fc.constantFrom('stays', 'is closed'),
    })
    .map(({ days, ...rest }) => ({ ...rest, ...(days ? { days } : {}) })),
  attempts: fc.record({ off, most: fc.integer({ min: 1, max: 4 }), days: fc.integer({ min: 1, max: 400 }), closes }),
  'gone-quiet': fc
    .record({
      off,
      most: fc.integer({ min: 1, max: 3 }),
      days: fc.integer({ min: 1, max: 300 }),
      opens: fc.constantFrom('count', 'do not count'),
      again: fc.option(fc.integer({ min: 1, max: 100 }), { nil: undefined }),
    })
    .map(({ again, ...rest }) => ({ ...rest, ...(again ? { again } : {}) })),
  customers: fc
    .record({
      off,
      relations: fc.subarray(['customer', 'our own people', 'former customer', 'competitor'], { minLength: 1 }),
      unknown: fc.constantFrom('stays', 'is held back', undefined),
      offLimits: fc.constantFrom('stay', 'are held back', undefined),
    })
    .map(({ unknown, offLimits, ...rest }) => ({ ...rest, ...(unknown ? { unknown } : {}), ...(offLimits ? { offLimits } : {}) })),
  'contacted-within': fc
    .record({
      off,
      days: fc.integer({ min: 1, max: 120 }),
      closes,
      ways: fc.option(fc.subarray([...WAYS], { minLength: 1 }), { nil: undefined }),
      counted: fc.constantFrom('person', ...GROUPS),
    })
    .map(({ ways, ...rest }) => ({ ...rest, ...(ways ? { ways } : {}) })),
  'another-round': fc.record({ off, closes }),
  'per-organisation': fc.record({
    off,
    most: fc.integer({ min: 1, max: 3 }),
    first,
    of: fc.constantFrom(...GROUPS),
    days: fc.option(fc.integer({ min: 1, max: 300 }), { nil: undefined }),
  }),
  'register-age': fc.record({ off, version: fc.constantFrom(null, '2026-06-01', '2026-05-10'), goodFor: fc.constantFrom(10, 28) }),
  ...OF_SETTINGS,
  'calling-hours': fc.record({ off, from: fc.constantFrom('08:00', '11:00'), until: fc.constantFrom('10:00', '21:00') }),
  'same-address': fc.record({ off, first, colleagues: fc.constantFrom('share an email only', 'share everything') }),
}
const optional = fc.oneof(
  ...Object.entries(OPTIONAL).map(([kind, settings]) =>
    fc.tuple(settings, covers, countries).map(([own, cover, of]) => ({ ...own, ...cover, ...(isOfSet({ kind } as Rule) ? {} : of), kind })),
  ),
)

/** A whole policy: what the law asks for, and any other rules, some of a kind more than once, in any order. */
export const rules: fc.Arbitrary<Rule[]> = fc
  .tuple(
    fc.option(fc.constantFrom('2026-06-01', '2026-04-01')),
    fc.array(optional, { maxLength: 6 }),
    fc.array(fc.nat(1000), { minLength: 8, maxLength: 8 }),
  )
  .map(([version, others, places]) => {
    const legal: Rule[] = [
      { id: 'asked-to-stop', kind: 'asked-to-stop' },
      { id: 'register', kind: 'register', version, goodFor: 31, ...(places[7] % 3 === 0 ? { established: ['US', 'GB'] } : {}) },
    ]
    const rest = [...legal]
    for (const own of others) rest.push({ ...own, id: newRuleId(own.kind as RuleName, rest) } as Rule)
    const order = rest.map((rule, i) => [places[i] * 10 + i, rule] as const).sort(([a], [b]) => a - b)
    const placed = order.map(([, rule]) => rule)
    return [{ id: 'no-way-to-reach', kind: 'no-way-to-reach' }, ...placed.filter((rule) => !isOfSet(rule)), ...placed.filter(isOfSet)]
  })

/** Whom somebody let through, by which channel. */
export const letThrough = fc.array(fc.record({ person: fc.integer({ min: 1, max: 60 }), channel: fc.constantFrom(...CHANNELS) }), {
  maxLength: 20,
})
