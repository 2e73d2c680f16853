import fc from 'fast-check'
import { expect, test } from 'vitest'
import { originsOf } from '@/core/checks/strata'
import { Answers } from '@/core/criteria/registry'
import { listAccount } from '@/core/lists/account'
import type { CriterionLine, Line } from '@/core/lists/line'
import { blank, columnsOf, directory } from '../../support/people'
import { momentFor, page } from '../../support/lines'

const work = (people: Parameters<typeof columnsOf>[0], lines: Line[]) => {
  const columns = columnsOf(people)
  const moment = momentFor(columns)
  const accountOf = (own: Line[]) => listAccount(own, columns, new Answers(columns.directory), moment)
  const account = accountOf(lines)
  const without = (line: Line) => accountOf(lines.map((own) => (own === line ? ({ ...own, unknownAsYes: false } as Line) : own)))
  return { columns, account, origins: originsOf(account.on, lines, account, without) }
}

test('everybody on a list comes from one place, whatever its lines are', () => {
  fc.assert(
    fc.property(directory, page, (people, lines) => {
      const { columns, account, origins } = work(people, lines)
      const ids = origins.flatMap(({ set }) => columns.toIds(set))
      expect(ids.sort((a, b) => a - b)).toEqual(columns.toIds(account.on).sort((a, b) => a - b))
      expect(origins.every(({ set }) => set.count() > 0)).toBe(true)
      expect(new Set(origins.map(({ line, unknownOf }) => `${line} ${unknownOf}`)).size).toBe(origins.length)
      for (const { line, unknownOf } of origins) {
        const [from, asked] = [lines.findIndex((own) => own.id === line), lines.findIndex((own) => own.id === unknownOf)]
        // A line before the one that let somebody in has no say in it.
        if (unknownOf !== null) expect(asked).toBeGreaterThan(from)
      }
    }),
  )
})

test('whoever is unknown to a line that counts it as yes comes from there; an add behind it lets them in anew', () => {
  const keep: CriterionLine = { id: 'keep', verb: 'keep', off: false, unknownAsYes: true, criterion: { kind: 'role', any: ['estates'] } }
  const add: CriterionLine = {
    id: 'add',
    verb: 'add',
    off: false,
    unknownAsYes: false,
    criterion: { kind: 'county', any: ['Pellow', 'Marle'] },
  }
  const drop: CriterionLine = { ...keep, id: 'drop', verb: 'drop', unknownAsYes: false, criterion: { kind: 'county', any: ['Marle'] } }
  const start: Line = { id: 'start', verb: 'start', off: false, batch: null }
  const people = [
    { ...blank, id: 1, role: 'Estates lead' },
    { ...blank, id: 2, role: null },
    { ...blank, id: 3, role: 'Nurse', county: 'Pellow' },
    // Unknown to the first, taken out by the second, and taken in anew.
    { ...blank, id: 4, role: null, county: 'Marle' },
  ]
  const told = (lines: Line[]) => {
    const { columns, origins } = work(people, lines)
    return origins.map(({ line, unknownOf, set }) => [line, unknownOf, columns.toIds(set)])
  }
  expect(told([start, keep, drop, add])).toEqual([
    ['start', null, [1]],
    ['start', 'keep', [2]],
    ['add', null, [3, 4]],
  ])
})
