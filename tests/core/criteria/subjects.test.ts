import fc from 'fast-check'
import { expect, test } from 'vitest'
import { metresApart } from '@/core/clean/premises'
import type { OrganisationRecord } from '@/core/records/organisation-record'
import type { PersonRecord } from '@/core/records/person-record'
import type { PremisesRecord } from '@/core/records/premises-record'
import type { Subject } from '@/core/records/subject'
import { monthsBefore } from '@/core/calendar/local-day'
import { Answers, CRITERIA, type Criterion, type CriterionName, fits, questionsOf, verdict } from '@/core/criteria/registry'
import { HOW, type How, HOWS } from '@/core/criteria/related'
import { listAccount } from '@/core/lists/account'
import { type Line, validLines } from '@/core/lists/line'
import { blank } from '../../support/people'
import { criterion, criterionOf } from '../../support/lines'
import { type World, world, columnsOf, recordsOf, momentOf } from './world'

test('people are asked what their organisation and the premises at their address are asked', () => {
  fc.assert(
    fc.property(
      world,
      criterion.filter((c) => CRITERIA[c.kind].of === 'organisation' || CRITERIA[c.kind].of === 'premises'),
      (w, c) => {
        const columns = columnsOf(w)
        const answers = new Answers(columns)
        const moment = momentOf(columns, 'person')
        const { yes, unknown } = answers.of(c, moment)
        for (const p of w.people) {
          const n = columns.people.numberFor(p.id) as number
          expect(yes.has(n) ? 'yes' : unknown.has(n) ? 'unknown' : 'no').toBe(verdict(c, p, moment))
        }
      },
    ),
    { numRuns: 300 },
  )
})

/** The relational definition: who is related to whom. Null where a position is missing. */
function relatedTo(w: World, how: How, subject: Subject, record: { id: number }, metres: number): { id: number }[] | null {
  const live = <R extends { id: number }>(records: R[], ids: (number | null)[]) => records.filter((r) => ids.includes(r.id))
  const person = record as PersonRecord
  const org = record as OrganisationRecord
  const place = record as PremisesRecord
  switch (how) {
    case 'works at':
      return live(w.organisations, [person.organisation])
    case 'employs':
      return w.people.filter((p) => p.organisation === org.id)
    case 'owns':
      return w.premises.filter((p) => (subject === 'person' ? p.ownerPerson : p.ownerOrganisation) === record.id)
    case 'occupies':
      return live(w.premises, [subject === 'person' ? person.premises : org.premises])
    case 'owned by organisations':
      return live(w.organisations, [place.ownerOrganisation])
    case 'owned by people':
      return live(w.people, [place.ownerPerson])
    case 'occupied by organisations':
      return w.organisations.filter((o) => o.premises === place.id)
    case 'occupied by people':
      return w.people.filter((p) => p.premises === place.id)
    case 'neighbours': {
      const own = subject === 'premises' ? place : w.premises.find((p) => p.id === (subject === 'person' ? person.premises : org.premises))
      const position = own?.position
      return position ? w.premises.filter((p) => p.id !== own.id && p.position && metresApart(p.position, position) <= metres) : null
    }
  }
}

test('lines that cross subjects are their relational definition', () => {
  fc.assert(
    fc.property(world, fc.constantFrom(...HOWS), fc.constantFrom(300, 3000, 30_000), (w, how, metres) => {
      const columns = columnsOf(w)
      const { asked, named } = HOW[how]
      const moment = momentOf(columns, named)
      for (const subject of asked) {
        const { yes, unknown } = new Answers(columns).of(
          { kind: 'related', how, list: { id: 50, name: 'another' }, role: [], metres: how === 'neighbours' ? metres : null },
          moment,
          subject,
        )
        for (const record of recordsOf(w, subject)) {
          const related = relatedTo(w, how, subject, record, metres)
          const expected =
            related === null || (related.length === 0 && how !== 'neighbours')
              ? 'unknown'
              : related.some((r) => r.id % 3 === 0)
                ? 'yes'
                : 'no'
          const n = columns.of(subject).numberFor(record.id) as number
          expect(yes.has(n) ? 'yes' : unknown.has(n) ? 'unknown' : 'no', how).toBe(expected)
        }
      }
    }),
    { numRuns: 400 },
  )
})

test('works at, with a role: a role that is missing is unknown only where the organisation is on', () => {
  const w: World = {
    premises: [],
    organisations: [3, 4].map((id) => ({
      id,
      name: 'x',
      industry: null,
      headCount: null,
      domain: null,
      premises: null,
      county: null,
      town: null,
      postcode: null,
      street: null,
      custom: {},
      batches: [],
      sortKey: '',
    })),
    people: (
      [
        ['Estates lead', 3],
        ['Bursar', 3],
        [null, 3],
        [null, 4],
        ['Estates lead', 4],
        ['Estates lead', null],
      ] as const
    ).map(([role, at], i) => ({ ...blank, id: i + 1, role, organisation: at })),
  }
  const columns = columnsOf(w)
  const { yes, unknown } = new Answers(columns).of(
    { kind: 'related', how: 'works at', list: { id: 50, name: 'another' }, role: ['estates'], metres: null },
    momentOf(columns, 'organisation'),
  )
  expect([columns.people.toIds(yes), columns.people.toIds(unknown)]).toEqual([[1], [3, 6]])
})

test.each([
  ['2024-02-29', 12, '2023-02-28'],
  ['2026-03-31', 1, '2026-02-28'],
  ['2026-01-15', 25, '2023-12-15'],
  ['2026-06-15', 0, '2026-06-15'],
])('%s less %i months is %s', (date, months, expected) => expect(monthsBefore(date, months)).toBe(expected))

test('a list holds lines that its subject can be asked, and no others', () => {
  const start = (subject: Subject): Line => ({ id: 's', verb: 'start', off: false, batch: null, subject })
  const keep = (c: Criterion): Line => ({ id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion: c })
  expect(() => validLines([start('premises'), keep({ kind: 'role', any: ['estates'] })])).toThrow(
    /line 2: a list of premises cannot ask “Role wording”/,
  )
  expect(() =>
    validLines([start('organisation'), keep({ kind: 'related', how: 'works at', list: { id: 1, name: 'x' }, role: [], metres: null })]),
  ).toThrow(/works at/)
  expect(validLines([start('organisation'), keep({ kind: 'roof-area', least: 300, most: null })])).toHaveLength(2)
  for (const kind of Object.keys(CRITERIA) as CriterionName[]) expect(fits(kind, 'person'), kind).toBe(true)
})

test('a list of premises is an account like any other', () => {
  fc.assert(
    fc.property(
      world,
      fc.array(
        criterionOf('premises').filter((c) => questionsOf(c).every(({ kind }) => kind !== 'list' && kind !== 'any-list')),
        { maxLength: 5 },
      ),
      fc.nat(4),
      (w, asked, most) => {
        const columns = columnsOf(w)
        const lines: Line[] = [
          { id: 's', verb: 'start', off: false, batch: null, subject: 'premises' },
          ...asked.map(
            (c, i): Line => ({
              id: `l${i}`,
              verb: (['keep', 'drop', 'add'] as const)[i % 3],
              off: false,
              unknownAsYes: false,
              criterion: c,
            }),
          ),
          { id: 'm', verb: 'limit', off: false, most: most + 1, per: 'postcode', rank: 'largest' },
        ]
        const { figures, on } = listAccount(lines, columns.premises, new Answers(columns), momentOf(columns, 'premises'))
        let before = 0
        for (const f of figures.lines) {
          expect(before - f.out - f.unknown + f.in).toBe(f.balance)
          before = f.balance
        }
        const { tabs } = figures
        expect(tabs.on + tabs.leftOut + tabs.unknown + tabs.never).toBe(w.premises.length)
        expect(on.count()).toBe(tabs.on)
      },
    ),
  )
})
