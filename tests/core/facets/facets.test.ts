import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { Bitset } from '@/core/columns/bitset'
import { SUBJECTS } from '@/core/records/subject'
import { Answers, validCriterion } from '@/core/criteria/registry'
import { areaUnderCurve, learnt, mostAlike, reasonsOf, scoreOf } from '@/core/facets/alike'
import { countBy, groupRows, having } from '@/core/facets/group'
import { questionsLike } from '@/core/facets/lines-like'
import { profileOf } from '@/core/facets/profile'
import { FACETS, facetOf } from '@/core/facets/registry'
import { sortedBy } from '@/core/facets/sort'
import { columnsFor, FIRST_COLUMNS, MOST_PINNED, pinColumn, validTable } from '@/core/facets/table'
import { listKey } from '@/core/criteria/list'
import { type LineFigures, listAccount, type ListFigures } from '@/core/lists/account'
import { type Line, lineText, validLines } from '@/core/lists/line'
import { listsNamed } from '@/core/lists/named'
import { warningsOf } from '@/core/lists/warnings'
import { farFrom, stepsTo } from '@/core/lists/wanted'
import { blank, columnsOf, directory, MOMENT } from '../../support/people'
import { momentFor } from '../../support/lines'

const keys = fc.constantFrom(...Object.keys(FACETS.person))

test('every record has one value of a facet or none: groups and unknown add up, and a group holds those it counts', () => {
  fc.assert(
    fc.property(directory, keys, (people, key) => {
      const columns = columnsOf(people)
      const values = facetOf('person', key).values(columns.directory, MOMENT)
      const groups = countBy(columns.live, values)
      const rows = groupRows(groups, values.labels, false)
      expect(rows.reduce((sum, row) => sum + row.count, 0) + groups.unknown).toBe(people.length)
      for (const row of rows) expect(having(columns.live, values, row.label).count()).toBe(row.count)
      expect(having(columns.live, values, null).count()).toBe(groups.unknown)
      expect(having(columns.live, values, 'no such value').isEmpty()).toBe(true)
      expect(new Set(values.labels).size).toBe(values.labels.length)
    }),
    { numRuns: 300 },
  )
})

test('a value’s own criterion answers yes for just those who have it, where a facet has one', () => {
  const told = Object.entries(FACETS.person)
    .filter(([key, f]) => f.criterion && key !== 'role' && key !== 'district' && key !== 'languages')
    .map(([key]) => key)
  fc.assert(
    fc.property(directory, fc.constantFrom(...told), (people, key) => {
      const columns = columnsOf(people)
      const facet = facetOf('person', key)
      const values = facet.values(columns.directory, MOMENT)
      for (const label of groupRows(countBy(columns.live, values), values.labels, false).map((row) => row.label)) {
        const { yes } = new Answers(columns.directory).of(validCriterion(facet.criterion?.(label)), momentFor(columns))
        expect(having(columns.live, values, label).toArray(), `${key} ${label}`).toEqual(yes.toArray())
      }
    }),
    { numRuns: 200 },
  )
})

test('words written in other ways are one value, shown as it is written best', () => {
  const columns = columnsOf(
    ['SITE MANAGER', 'site manager', 'Site Manager', 'Site-manager', 'Site managers', null].map((role, i) => ({
      ...blank,
      id: i + 1,
      role,
    })),
  )
  const values = facetOf('person', 'role').values(columns.directory, MOMENT)
  expect(groupRows(countBy(columns.live, values), values.labels, false)).toEqual([
    { label: 'Site Manager', count: 4 },
    { label: 'Site managers', count: 1 },
  ])
  expect(having(columns.live, values, 'SITE MANAGER').count()).toBe(4)
})

test('sorted by several columns: missing last either way, ties in the order in which records are shown', () => {
  fc.assert(
    fc.property(directory, fc.array(fc.record({ key: keys, back: fc.boolean() }), { minLength: 1, maxLength: 3 }), (people, sort) => {
      const columns = columnsOf(people)
      const found = sort.map(({ key, back }) => ({
        values: facetOf('person', key).values(columns.directory, MOMENT),
        back,
        ordered: facetOf('person', key).ordered === true,
      }))
      const numbers = Array.from(sortedBy(columns, columns.live, found))
      expect([...numbers].sort((a, b) => a - b)).toEqual(columns.live.toArray())
      const place = new Map(Array.from(columns.inOrder(), (n, i) => [n, i]))
      for (let i = 1; i < numbers.length; i++) {
        const [a, b] = [numbers[i - 1], numbers[i]]
        let decided = 0
        for (const { values, back, ordered } of found) {
          const [x, y] = [values.at(a), values.at(b)]
          if (x === y) continue
          if (x < 0 || y < 0) decided = x < 0 ? 1 : -1
          else decided = (ordered ? x - y : values.labels[x].localeCompare(values.labels[y], 'en')) * (back ? -1 : 1)
          if (decided !== 0) break
        }
        if (decided === 0) decided = (place.get(a) as number) - (place.get(b) as number)
        expect(decided).toBeLessThan(0)
      }
    }),
    { numRuns: 200 },
  )
})

test('a profile’s shares are of those who are known, and against itself every lift is 1', () => {
  fc.assert(
    fc.property(directory, (people) => {
      const columns = columnsOf(people)
      for (const facet of profileOf(columns.live, columns.live, 'person', columns.directory, MOMENT)) {
        expect(facet.known + facet.unknown).toBe(people.length)
        for (const row of facet.rows) {
          expect(row.share).toBeCloseTo(row.count / facet.known, 12)
          expect(row.lift).toBeCloseTo(1, 12)
        }
      }
    }),
    { numRuns: 60 },
  )
})

test('pinned columns stand first, keep their order, and are at most two', () => {
  const table = validTable({ columns: ['role', 'level', 'town', 'county'], sort: [] }, 'person')
  const one = pinColumn(table, 'town')
  expect(one).toMatchObject({ columns: ['town', 'role', 'level', 'county'], pinned: 1 })
  const two = pinColumn(one, 'county')
  expect(two).toMatchObject({ columns: ['town', 'county', 'role', 'level'], pinned: 2 })
  expect(pinColumn(two, 'level')).toBe(two)
  expect(pinColumn(two, 'town')).toMatchObject({ columns: ['county', 'town', 'role', 'level'], pinned: 1 })
  expect(pinColumn(two, 'no column')).toBe(two)
  expect(validTable({ columns: ['role'], sort: [], pinned: 9 }, 'person').pinned).toBe(1)
  expect(validTable({ columns: ['role', 'town', 'level'], sort: [], pinned: 9 }, 'person').pinned).toBe(MOST_PINNED)
  expect(validTable({ columns: ['role'], sort: [], pinned: 'x' }, 'person').pinned).toBeUndefined()
})

describe('more like these', () => {
  const people = Array.from({ length: 400 }, (_, i) => ({
    ...blank,
    id: i + 1,
    role: i % 4 === 0 ? 'Head of estates' : i % 4 === 1 ? 'Bursar' : i % 4 === 2 ? 'Nurse' : null,
    town: i % 2 === 0 ? 'Thornmouth' : 'Low Wendle',
  }))
  const columns = columnsOf(people)
  const examples = columns.numbers(people.filter((p) => p.role === 'Head of estates' && p.id % 3 === 0).map((p) => p.id))
  const likeness = learnt(examples, columns.live, 'person', columns.directory, MOMENT)

  test('the smoothed log-odds of a value, worked by hand', () => {
    const role = likeness.facets.find((f) => f.key === 'role')
    const at = role?.values.labels.indexOf('Head of estates') as number
    const k = examples.count()
    // 100 of 300 known roles: q = 1/3; all K examples have it: ln((K + 10/3) / (K + 10)) − ln(1/3).
    expect(role?.weights[at]).toBeCloseTo(Math.log((k + 10 / 3) / (k + 10)) - Math.log(1 / 3), 12)
  })
  test('those like them come first, the originals left out, and the reasons say why', () => {
    const found = mostAlike(likeness, columns.live, examples, 20)
    expect(found.every(({ n }) => columns.role.get(n) === 'Head of estates' && !examples.has(n))).toBe(true)
    expect(found.map(({ score }) => score)).toEqual([...found.map(({ score }) => score)].sort((a, b) => b - a))
    expect(reasonsOf(likeness, found[0].n)[0]).toMatchObject({ label: 'Head of estates', everybody: 100 })
  })
  test('ready lines: what sets them apart, as questions that can be edited', () => {
    const telling = likeness.facets.flatMap(({ key, values, weights, examples: own, everybody }) =>
      values.labels.map((label, i) => ({ key, label, weight: weights[i], examples: own[i], everybody: everybody[i] })),
    )
    const questions = questionsLike(telling, 'person')
    expect(questions).toContainEqual({ kind: 'role', any: ['Head of estates'] })
    for (const question of questions) validCriterion(question)
    // Every example passes each of them.
    for (const question of questions) expect(examples.andNot(new Answers(columns.directory).of(question, MOMENT).yes).isEmpty()).toBe(true)
  })
  test('a record of which nothing is known scores nothing', () => {
    const unknown = columnsOf([...people, { ...blank, id: 999 }])
    const again = learnt(unknown.numbers(unknown.toIds(examples)), unknown.live, 'person', unknown.directory, MOMENT)
    expect(scoreOf(again, unknown.numberFor(999) as number)).toBe(0)
  })
  test('a limit by best fit keeps those most like another list, ties by id, and says which list', () => {
    const named = { list: { id: 7, name: 'Good customers' }, edition: null }
    const members = new Map([[listKey(named), { set: examples, has: (id: number) => examples.has(columns.numberFor(id) as number) }]])
    const limit: Line = { id: 'l', verb: 'limit', off: false, most: 60, per: 'all', rank: 'best fit', like: named.list }
    const lines = validLines([{ id: 's', verb: 'start', off: false, batch: null }, limit])
    const { on } = listAccount(lines, columns, new Answers(columns.directory), { ...MOMENT, members })
    const best = [...columns.live.toArray()].sort((a, b) => scoreOf(likeness, b) - scoreOf(likeness, a) || a - b).slice(0, 60)
    expect(on.toArray()).toEqual(best.sort((a, b) => a - b))
    expect(on.toArray().every((n) => columns.role.get(n) === 'Head of estates')).toBe(true)
    expect(lineText(limit)).toBe('Limit to 60 in all · best fit with Good customers first')
    expect(listsNamed(lines).map(({ list }) => list.id)).toEqual([7])
    expect(() => validLines([lines[0], { ...limit, like: undefined }])).toThrow(/needs a list to be like/)
    expect(() => validLines([lines[0], { ...limit, rank: 'largest' }])).toThrow(/needs a list to be like/)
  })
  test('without examples nobody is more like them than another', () =>
    expect(
      new Set(
        mostAlike(learnt(new Bitset(), columns.live, 'person', columns.directory, MOMENT), columns.live, new Bitset(), 9).map(
          (f) => f.score,
        ),
      ),
    ).toEqual(new Set([0])))
})

describe('area under the curve', () => {
  test.each([
    ['apart', [3, 4], [1, 2], 1],
    ['the wrong way round', [1, 2], [3, 4], 0],
    ['all the same', [1, 1], [1, 1, 1], 0.5],
    // The example of scikit-learn's roc_auc_score documentation: y = [0, 0, 1, 1], scores = [0.1, 0.4, 0.35, 0.8] (from memory).
    ['a published example', [0.35, 0.8], [0.1, 0.4], 0.75],
  ])('%s', (_name, positive, negative, area) => expect(areaUnderCurve(positive, negative)).toBe(area))
  test('is the share of pairs in the right order', () => {
    const scores = fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 30 })
    fc.assert(
      fc.property(scores, scores, (positive, negative) => {
        const pairs = positive.flatMap((p) => negative.map((q): number => (p > q ? 1 : p === q ? 0.5 : 0)))
        expect(areaUnderCurve(positive, negative)).toBeCloseTo(pairs.reduce((a, b) => a + b, 0) / pairs.length, 10)
      }),
    )
  })
})

test('a table that comes from outside keeps what exists, and is never without columns', () => {
  for (const subject of SUBJECTS) {
    expect(validTable(null, subject)).toEqual({ columns: [...FIRST_COLUMNS[subject]], sort: [] })
    for (const key of FIRST_COLUMNS[subject]) expect(columnsFor(subject).map(([own]) => own)).toContain(key)
  }
  expect(
    validTable({ columns: ['role', 'role', 'constructor', 7], sort: [{ key: 'town', back: true }, { key: '__proto__' }, null] }, 'person'),
  ).toEqual({ columns: ['role'], sort: [{ key: 'town', back: true }] })
})

describe('what is worth saying of a line', () => {
  const keep = (id: string, criterion: object, verb = 'keep'): Line => ({ id, verb, off: false, unknownAsYes: false, criterion }) as Line
  const start: Line = { id: 's', verb: 'start', off: false, batch: null }
  const figures = (part: Partial<LineFigures>): LineFigures => ({
    id: 'x',
    out: 0,
    unknown: 0,
    in: 0,
    balance: 10,
    stayedUnknown: 0,
    cameBack: 0,
    notLimited: 0,
    without: 10,
    ...part,
  })
  const head = keep('a', { kind: 'level', any: ['head'] })
  const said = (lines: Line[], f: Partial<LineFigures>, before = 10) =>
    warningsOf(lines, lines.length - 1, figures(f), before).map((w) => w.text)

  test('that it does nothing', () => expect(said([start, head], {})).toEqual(['This line does nothing: it takes nobody out.']))
  test('that 88 % of its loss is unknown, with the line that counts unknown as yes', () => {
    const [warning] = warningsOf([start, head], 1, figures({ out: 12, unknown: 88, balance: 5 }), 105)
    expect(warning).toMatchObject({
      text: '88 % of those this line takes out have nothing on record for it.',
      instead: { unknownAsYes: true },
    })
  })
  test('that two lines contradict each other', () => {
    expect(said([start, head, keep('b', { kind: 'level', any: ['trainee'] })], { out: 10, balance: 0 })).toContain(
      'Line 2 says the contrary: nobody can be in both.',
    )
    expect(said([start, head, keep('b', { kind: 'level', any: ['head'] }, 'drop')], { out: 10, balance: 0 })).toContain(
      'Line 2 says the contrary: nobody can be in both.',
    )
    expect(
      said([start, keep('c', { kind: 'roof-area', least: 500, most: null }), keep('d', { kind: 'roof-area', least: null, most: 100 })], {
        out: 10,
        balance: 0,
      }),
    ).toContain('Line 2 says the contrary: nobody can be in both.')
    expect(said([start, head, keep('b', { kind: 'level', any: ['head', 'trainee'] })], { out: 1 })).toEqual([])
    // A role may say both.
    expect(
      said([start, keep('e', { kind: 'role', any: ['estates'] }), keep('f', { kind: 'role', any: ['facilities'] })], { out: 1 }),
    ).toEqual([])
  })
  test('nothing of a line that is off, or of the start', () =>
    expect([said([start], {}), said([start, { ...head, off: true }], {})]).toEqual([[], []]))
})

describe('a wanted size', () => {
  const lines = ['s', 'a', 'b', 'c'].map(
    (id, i): Line =>
      i === 0
        ? { id, verb: 'start', off: false, batch: null }
        : { id, verb: 'keep', off: id === 'c', unknownAsYes: false, criterion: { kind: 'role', any: [id] } },
  )
  const figures = (balance: number, ...without: number[]) =>
    ({
      totals: { out: 0, unknown: 0, in: 0, balance },
      lines: lines.map(({ id }, i) => ({
        id,
        out: 0,
        unknown: 0,
        in: 0,
        balance: 0,
        stayedUnknown: 0,
        cameBack: 0,
        notLimited: 0,
        without: without[i] ?? 0,
      })),
    }) as unknown as ListFigures
  test('3,000 to 5,000: too few, and the line whose absence comes nearest is named first (one mailing’s wanted size, no source)', () => {
    expect(stepsTo({ least: 3000, most: 5000 }, lines, figures(1200, 0, 2600, 4100, 3500))).toEqual([
      { do: 'without', line: 'b', holds: 4100 },
      { do: 'without', line: 'a', holds: 2600 },
    ])
  })
  test('too many: a limit does it, and a line that makes it worse is not named', () => {
    expect(stepsTo({ least: 3000, most: 5000 }, lines, figures(9000, 0, 12_000, 9000, 3000))).toEqual([
      { do: 'limit', most: 5000, holds: 5000 },
    ])
  })
  test('right-sized: nothing is to be done', () =>
    expect([stepsTo({ least: 3000, most: 5000 }, lines, figures(5000, 0, 4000, 4000, 4000)), farFrom({ least: 3, most: 5 }, 3)]).toEqual([
      [],
      0,
    ]))
})
