import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { CRITERIA, type CriterionName, fits } from '@/core/criteria/registry'
import { HOW, HOWS } from '@/core/criteria/related'
import { type Line, validLines } from '@/core/lists/line'
import type { Subject } from '@/core/records/subject'
import { isWhole, limitTo, moved, newId, newLimit, newLine, relatedTo } from '@/ui/lists/line-editing'
import { announcementsFor, startingConflict } from '@/ui/lists/list-asking'
import { uploadTold } from '@/ui/lists/upload-told'
import { viewIn } from '@/ui/lists/view-of-list'

const SUBJECTS: Subject[] = ['person', 'organisation', 'premises']
const KINDS = Object.keys(CRITERIA) as CriterionName[]
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const tagged = (id: string, tag: string): Line => ({
  id,
  verb: 'keep',
  off: false,
  unknownAsYes: false,
  criterion: { kind: 'tag', any: [tag] },
})

describe('lines while they are written', () => {
  test.each(SUBJECTS)('a new line of any kind a list of %s can ask is one the list accepts once it is whole', (subject) => {
    for (const kind of KINDS.filter((k) => fits(k, subject))) {
      const line = newLine('keep', kind, subject)
      expect(line).toMatchObject({ verb: 'keep', off: false, criterion: { kind } })
      const first = { ...start, ...(subject === 'person' ? {} : { subject }) } as Line
      if (isWhole(line)) expect(validLines([first, line]), kind).toHaveLength(2)
      else expect(() => validLines([first, line]), kind).toThrow()
    }
  })

  test('what is not whole yet says so; lines that ask nothing are whole', () => {
    expect(isWhole(tagged('a', 'newsletter'))).toBe(true)
    expect(isWhole(newLine('drop', 'tag', 'person'))).toBe(false)
    expect(isWhole(start)).toBe(true)
    expect(isWhole(newLimit('premises'))).toBe(true)
  })

  test.each(SUBJECTS)('records of %s are linked by a way they can be', (subject) => {
    const made = relatedTo(subject)
    expect(made.kind).toBe('related')
    if (made.kind !== 'related') return
    expect(HOWS).toContain(made.how)
    expect(HOW[made.how].asked).toContain(subject)
  })

  test('ids are ten hexadecimal digits, and not the same twice', () => {
    const ids = Array.from({ length: 500 }, newId)
    for (const id of ids) expect(id).toMatch(/^[0-9a-f]{10}$/)
    expect(new Set(ids).size).toBe(ids.length)
  })

  test('limits: of people so many of each organisation, of all else in all; to a wanted size in all', () => {
    expect(newLimit('person')).toMatchObject({ verb: 'limit', most: 3, per: 'organisation', rank: 'easiest to reach' })
    expect(newLimit('organisation')).toMatchObject({ per: 'all', rank: 'first in the directory' })
    expect(limitTo(250, 'person')).toMatchObject({ most: 250, per: 'all', rank: 'easiest to reach' })
    expect(limitTo(250, 'premises')).toMatchObject({ most: 250, per: 'all', rank: 'first in the directory' })
  })

  test('moving keeps every line once, in the order of the others, and the first line first', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 9 }), fc.nat(8), fc.nat(8), (count, a, b) => {
        const lines = [start, ...Array.from({ length: count - 1 }, (_, i) => tagged(`l${i}`, 'x'))]
        const from = 1 + (a % (count - 1))
        const to = b % count
        const next = moved(lines, from, to)
        expect(next.map((l) => l.id).sort()).toEqual(lines.map((l) => l.id).sort())
        expect(next[0]).toBe(start)
        expect(next[Math.max(1, to)]).toBe(lines[from])
        expect(next.filter((l) => l !== lines[from])).toEqual(lines.filter((l) => l !== lines[from]))
      }),
    )
  })
})

describe('what is said to those who move lines without seeing them move', () => {
  const said = announcementsFor([start, tagged('a', 'newsletter')])
  test('picked up, over, put down, put back', () => {
    expect(said.onDragStart({ active: { id: 'a' } })).toMatch(/^Picked up line 2, Keep .*newsletter/)
    expect(said.onDragOver({ over: { id: 's' } })).toMatch(/^Over line 1, /)
    expect(said.onDragOver({ over: null })).toBe('')
    expect(said.onDragEnd({ over: { id: 's' } })).toBe('Put down.')
    expect(said.onDragEnd({ over: null })).toBe('Put back.')
    expect(said.onDragCancel()).toBe('Put back.')
  })
  test('a line that is gone meanwhile is “the line”', () =>
    expect(said.onDragStart({ active: { id: 'gone' } })).toBe('Picked up the line.'))
})

describe('a draft of an edition that is not the latest any more', () => {
  const list = { edition: 4, savedBy: 'Beth Hallam', lines: [start] }
  test('is shown beside what was saved since', () => {
    const basis = [start, tagged('a', 'x')]
    expect(startingConflict({ ...list, draft: { basedOn: 3, lines: basis, basis } } as never)).toEqual({
      edition: 4,
      by: 'Beth Hallam',
      lines: [start],
      basis,
    })
  })
  test('of the latest there is nothing to show, nor without a draft', () => {
    expect(startingConflict({ ...list, draft: { basedOn: 4, lines: [start], basis: [start] } } as never)).toBeNull()
    expect(startingConflict({ ...list, draft: null } as never)).toBeNull()
  })
})

describe('a view in an address', () => {
  const view = viewIn([start, tagged('a', 'x')])
  test.each([
    [{ tab: 'never' }, { tab: 'never' }],
    [{ tab: 'out' }, { tab: 'out', line: undefined }],
    [
      { tab: 'unknown', line: 'a' },
      { tab: 'unknown', line: 'a' },
    ],
    [
      { tab: 'moved', line: 'a', column: 'in' },
      { tab: 'moved', line: 'a', column: 'in' },
    ],
    [{ tab: 'out', line: 'gone' }, null],
    [{ tab: 'moved', line: 'a' }, null],
    [{ tab: 'moved', line: 'a', column: 'balance' }, null],
    [{ tab: 'moved', line: 'gone', column: 'in' }, null],
    [{ tab: 'everything' }, null],
    [{}, null],
  ])('%o is %o', (words, expected) => expect(view(words as Record<string, string>)).toEqual(expected))
})

describe('what became of the rows of a file that was picked from', () => {
  test('every row is in the sentence', () => {
    const told = { rows: 12, nobody: { count: 3, some: ['A', 'B'] }, several: 2, unclear: 1 }
    expect(uploadTold(5, told)).toBe(
      '12 rows: 5 people picked; 1 names somebody once more; 3 are about nobody in the directory (A; B; …); 2 could be about several; 1 could not be read.',
    )
  })
  test('what did not happen is not told', () => {
    expect(uploadTold(1, { rows: 1, nobody: { count: 0, some: [] }, several: 0, unclear: 0 })).toBe('1 row: 1 person picked.')
    expect(uploadTold(0, { rows: 1, nobody: { count: 1, some: ['Nobody Of That Name'] }, several: 0, unclear: 0 })).toBe(
      '1 row: 0 people picked; 1 is about nobody in the directory (Nobody Of That Name).',
    )
  })
})
