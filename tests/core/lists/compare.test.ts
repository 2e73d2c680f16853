import fc from 'fast-check'
import { expect, test } from 'vitest'
import { compareLines } from '@/core/lists/compare'
import { compareEditions } from '@/core/lists/compare-editions'
import { listAccount } from '@/core/lists/account'
import type { Line } from '@/core/lists/line'
import { atHand, type NamedLists } from '@/core/lists/named'
import { Answers, questionsOf } from '@/core/criteria/registry'
import { columnsOf, directory, MOMENT } from '../../support/people'
import { AREAS } from '../../support/areas'
import { momentFor, page } from '../../support/lines'

const line = (id: string, word = id): Line => ({
  id,
  verb: 'keep',
  off: false,
  unknownAsYes: false,
  criterion: { kind: 'role', any: [word] },
})

test('lines that stayed, moved, changed, came and went', () => {
  const changes = compareLines(
    [line('a'), line('b'), line('c'), line('d'), line('e')],
    [line('a'), line('d'), line('b', 'other'), line('c'), line('f')],
  )
  expect(changes.map((c) => `${c.is} ${c.line.id}`)).toEqual(['same a', 'moved d', 'changed b', 'same c', 'removed e', 'added f'])
})

test('every line of both pages is told once, and a page differs from itself in nothing', () => {
  fc.assert(
    fc.property(page, page, (before, after) => {
      const changes = compareLines(before, after)
      expect(changes.filter((c) => 'after' in c).map((c) => c.line.id)).toEqual(after.map((l) => l.id))
      expect(
        changes
          .filter((c) => 'before' in c)
          .map((c) => (c as { before: number }).before)
          .sort((a, b) => a - b),
      ).toEqual(before.map((_, i) => i))
      expect(compareLines(before, before).every((c) => c.is === 'same')).toBe(true)
    }),
  )
})

test('opening − left + joined is closing for any two editions', () => {
  fc.assert(
    fc.property(directory, page, page, (people, before, after) => {
      const columns = columnsOf(people)
      const work = (lines: Line[]) => listAccount(lines, columns, new Answers(columns.directory), momentFor(columns))
      const { figures: f, left, joined, stayed } = compareEditions(work(before), work(after))
      expect(f.opening - f.left + f.joined).toBe(f.closing)
      expect(f.opening - f.left).toBe(f.stayed)
      expect([left.and(joined), left.and(stayed), joined.and(stayed)].every((set) => set.isEmpty())).toBe(true)
    }),
  )
})

const NOTHING = { picked: new Map(), areas: new Map() }
const on = (id: number, name = `list ${id}`) => ({ kind: 'list' as const, list: { id, name }, edition: null })
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const keepOn = (id: number): Line => ({ id: `k${id}`, verb: 'keep', off: false, unknownAsYes: false, criterion: on(id) })

test('a list named at any depth is worked out once from its own lines; a loop and a missing list are refused', () => {
  fc.assert(
    fc.property(directory, page, (people, lines) => {
      const columns = columnsOf(people)
      const answers = new Answers(columns.directory)
      const own = lines.map((l) =>
        'criterion' in l && questionsOf(l.criterion).some(({ kind }) => kind === 'list' || kind === 'any-list')
          ? { ...l, criterion: { kind: 'reach' as const, channel: 'post' as const } }
          : l,
      ) as Line[]
      const named: NamedLists = { 'list:1:latest': own, 'list:2:latest': [start, keepOn(1)] }
      const fixed = {
        picked: new Map([
          [1, [2, 4, 6]],
          [2, [1]],
        ]),
        areas: new Map(AREAS.map((shape, i) => [i + 1, shape])),
      }
      const moment = { ...MOMENT, lastRounds: { 7: 2 } }
      const whole = atHand(moment, [start, keepOn(2)], named, fixed, columns.directory, answers)
      const expected = listAccount(own, columns, answers, atHand(moment, own, {}, fixed, columns.directory, answers)).on
      expect(listAccount([start, keepOn(2)], columns, answers, whole).on.equals(expected)).toBe(true)
    }),
  )
  const columns = columnsOf([])
  const answers = new Answers(columns.directory)
  expect(() =>
    atHand(
      MOMENT,
      [start, keepOn(1)],
      { 'list:1:latest': [start, keepOn(2)], 'list:2:latest': [start, keepOn(1)] },
      NOTHING,
      columns.directory,
      answers,
    ),
  ).toThrow(/loop/)
  expect(() => atHand(MOMENT, [start, keepOn(3)], {}, NOTHING, columns.directory, answers)).toThrow(/“list 3” is not at hand/)
})
