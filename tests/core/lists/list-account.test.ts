import fc from 'fast-check'
import { expect, test } from 'vitest'
import type { PersonRecord } from '@/core/records/person-record'
import type { Moment } from '@/core/criteria/kind'
import { Answers, verdict } from '@/core/criteria/registry'
import { listAccount } from '@/core/lists/account'
import { type Line, type LimitLine, lineText, validLines } from '@/core/lists/line'
import { type Rank, RANKS, rankOfRecord, ranked } from '@/core/lists/rank'
import { decidedBy, viewOf } from '@/core/lists/view'
import { blank, columnsOf, directory } from '../../support/people'
import { momentFor, page, pickedHas, plainPage } from '../../support/lines'

/** The page read line by line for one record, straight from the words of the design. */
function readPage(
  lines: Line[],
  p: PersonRecord,
  moment: Moment,
): { on: boolean; decided: { line: string; how: 'out' | 'unknown' } | null } {
  let on = false
  let decided: { line: string; how: 'out' | 'unknown' } | null = null
  for (const line of lines) {
    if (line.off) continue
    if (line.verb === 'start') on = line.batch === null || p.batches.includes(line.batch.id)
    else if (line.verb === 'pick') {
      if (line.until === '2026-06-14' || !pickedHas(line, p.id)) continue
      if (line.side === 'in') on = true
      else if (on) [on, decided] = [false, { line: line.id, how: 'out' }]
    } else if ('criterion' in line) {
      const answer = verdict(line.criterion, p, moment)
      if (line.verb === 'add') on ||= answer === 'yes'
      else if (on && line.verb === 'drop' && answer === 'yes') [on, decided] = [false, { line: line.id, how: 'out' }]
      else if (on && line.verb === 'keep' && answer !== 'yes' && !(answer === 'unknown' && line.unknownAsYes))
        [on, decided] = [false, { line: line.id, how: answer === 'unknown' ? 'unknown' : 'out' }]
    }
  }
  return { on, decided: on ? null : decided }
}

const work = (people: PersonRecord[], lines: Line[]) => {
  const columns = columnsOf(people)
  const moment = momentFor(columns)
  return { columns, moment, account: listAccount(lines, columns, new Answers(columns.directory), moment) }
}

test('invariant 1: every line’s balance before − out − unknown + in is its balance', () => {
  fc.assert(
    fc.property(directory, page, (people, lines) => {
      const { figures, on } = work(people, lines).account
      let balance = 0
      for (const f of figures.lines) {
        expect(balance - f.out - f.unknown + f.in).toBe(f.balance)
        balance = f.balance
      }
      const { totals } = figures
      expect(totals.in - totals.out - totals.unknown).toBe(totals.balance)
      expect(totals.balance).toBe(on.count())
    }),
    { numRuns: 300 },
  )
})

test('invariant 2: every live record is in exactly one tab, by its deciding line, and tabs add up to the directory', () => {
  fc.assert(
    fc.property(directory, plainPage, (people, lines) => {
      const { account, columns, moment } = work(people, lines)
      const { tabs } = account.figures
      expect(tabs.on + tabs.leftOut + tabs.unknown + tabs.never).toBe(people.length)
      expect(tabs.directory).toBe(people.length)
      for (const p of people) {
        const n = columns.numberFor(p.id) as number
        const expected = readPage(lines, p, moment)
        expect(account.on.has(n)).toBe(expected.on)
        expect(decidedBy(account, lines, [n])[0]).toEqual(expected.decided)
        const places = [account.on, account.never, ...account.decided.flatMap((d) => [d.leftOut, d.unknown])].filter((set) => set.has(n))
        expect(places).toHaveLength(1)
      }
    }),
    { numRuns: 300 },
  )
})

test('invariant 3: drop lets unknown stay and tells how many; keep may count unknown as yes', () => {
  fc.assert(
    fc.property(directory, page, (people, lines) => {
      const { account, columns, moment } = work(people, lines)
      lines.forEach((line, i) => {
        if (line.verb === 'drop') expect(account.moves[i].unknown.isEmpty()).toBe(true)
        if (line.verb === 'keep' && line.unknownAsYes) expect(account.moves[i].unknown.isEmpty()).toBe(true)
        if (!('criterion' in line) || line.off) return
        account.moves[i].stayedUnknown.forEach((n) => expect(verdict(line.criterion, people[columns.idAt(n) - 1], moment)).toBe('unknown'))
      })
    }),
  )
})

test('“without this line” is what the list holds when the line is switched off', () => {
  fc.assert(
    fc.property(directory, page, (people, lines) => {
      const { figures } = work(people, lines).account
      lines.forEach((line, i) => {
        const others = lines.map((l, j) => (j === i ? { ...l, off: true } : l)) as Line[]
        expect(figures.lines[i].without, lineText(line)).toBe(work(people, others).account.figures.totals.balance)
      })
    }),
    { numRuns: 200 },
  )
})

test('the tabs open the very people they count, and a line’s share of them', () => {
  fc.assert(
    fc.property(directory, page, (people, lines) => {
      const { account } = work(people, lines)
      expect(viewOf(account, lines, { tab: 'out' }).count()).toBe(account.figures.tabs.leftOut)
      expect(viewOf(account, lines, { tab: 'unknown' }).count()).toBe(account.figures.tabs.unknown)
      lines.forEach((l, i) => {
        expect(viewOf(account, lines, { tab: 'out', line: l.id }).count()).toBe(account.figures.tabs.byLine[i].leftOut)
        expect(viewOf(account, lines, { tab: 'moved', line: l.id, column: 'in' }).count()).toBe(account.figures.lines[i].in)
      })
      expect(viewOf(account, lines, { tab: 'out', line: 'no such line' }).count()).toBe(0)
    }),
  )
})

test('invariant 2 with limits too: everybody is in exactly one tab, and only records that are on are shown as on', () => {
  fc.assert(
    fc.property(directory, page, (people, lines) => {
      const { account, columns } = work(people, lines)
      const { tabs } = account.figures
      expect(tabs.on + tabs.leftOut + tabs.unknown + tabs.never).toBe(people.length)
      for (const p of people) {
        const n = columns.numberFor(p.id) as number
        expect(
          [account.on, account.never, ...account.decided.flatMap((d) => [d.leftOut, d.unknown])].filter((set) => set.has(n)),
        ).toHaveLength(1)
      }
    }),
    { numRuns: 300 },
  )
})

/** Who stays on under a limit, straight from the words of the design. */
function limited(people: PersonRecord[], { most, per, rank }: Pick<LimitLine, 'most' | 'per'> & { rank: Rank }): Set<number> {
  const back = rank === 'last in the directory' ? -1 : 1
  const inOrder = [...people].sort((a, b) => rankOfRecord(rank, a) - rankOfRecord(rank, b) || (a.id - b.id) * back)
  const taken = new Map<number, number>()
  return new Set(
    inOrder
      .filter((p, i) => {
        if (per === 'all') return i < most
        if (p.organisation === null) return true
        taken.set(p.organisation, (taken.get(p.organisation) ?? 0) + 1)
        return (taken.get(p.organisation) as number) <= most
      })
      .map((p) => p.id),
  )
}

test('a limit keeps the first by its ranking, a missing rank last, ties by id; without an organisation nobody is limited', () => {
  fc.assert(
    fc.property(
      directory,
      fc.integer({ min: 1, max: 12 }),
      fc.constantFrom('organisation' as const, 'all' as const),
      fc.constantFrom(...RANKS),
      (people, most, per, rank) => {
        const { account, columns } = work(people, [
          { id: 'a', verb: 'start', off: false, batch: null },
          { id: 'b', verb: 'limit', off: false, most, per, rank },
        ])
        expect(new Set(columns.toIds(account.on))).toEqual(limited(people, { most, per, rank }))
        expect(account.figures.lines[1].notLimited).toBe(per === 'all' ? 0 : people.filter((p) => p.organisation === null).length)
      },
    ),
    { numRuns: 300 },
  )
})

test('a ranking is the same whether record numbers ascend with ids or not', () => {
  fc.assert(
    fc.property(directory, fc.constantFrom(...RANKS), (people, rank) => {
      const [forth, back] = [columnsOf(people), columnsOf([...people].reverse())]
      const ids = (columns: typeof forth) => Array.from(ranked(columns.live, rank, columns), (n) => columns.idAt(n))
      expect(ids(back)).toEqual(ids(forth))
    }),
  )
})

test('add says how many came back', () => {
  const record = (id: number, role: string): PersonRecord => ({ ...blank, id, role })
  const role = (word: string) => ({ kind: 'role' as const, any: [word] })
  const lines: Line[] = [
    { id: 'a', verb: 'start', off: false, batch: null },
    { id: 'b', verb: 'keep', off: false, unknownAsYes: false, criterion: role('estates') },
    { id: 'c', verb: 'add', off: false, unknownAsYes: false, criterion: role('bursar') },
  ]
  const { figures } = work([record(1, 'Estates lead'), record(2, 'Bursar'), record(3, 'Nurse')], lines).account
  expect(figures.lines.map(({ out, in: came, balance, cameBack }) => [out, came, balance, cameBack])).toEqual([
    [0, 3, 3, 0],
    [2, 0, 1, 0],
    [0, 1, 2, 1],
  ])
})

test('lines from outside are checked, and the error names the line', () => {
  const start = { id: 'a', verb: 'start', off: false, batch: null }
  expect(() => validLines([])).toThrow(/needs a line to start with/)
  expect(() => validLines([start, start])).toThrow(/line 2: only the first line can start/)
  expect(() =>
    validLines([start, { id: 'b', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'role', any: [''] } }]),
  ).toThrow(/line 2/)
  expect(() =>
    validLines([start, { id: 'a', verb: 'drop', off: false, unknownAsYes: false, criterion: { kind: 'reach', channel: 'post' } }]),
  ).toThrow(/line 2: its id stands twice/)
  fc.assert(
    fc.property(page, (lines) => {
      expect(validLines(JSON.parse(JSON.stringify(lines)))).toEqual(lines)
    }),
  )
})
