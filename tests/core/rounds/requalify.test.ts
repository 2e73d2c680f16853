import fc from 'fast-check'
import { expect, test } from 'vitest'
import type { PersonRecord } from '@/core/records/person-record'
import { Answers } from '@/core/criteria/registry'
import { listAccount } from '@/core/lists/account'
import { type Crowd, type FrozenRound, frozenSets, requalifyClear, requalifyListed } from '@/core/rounds/requalify'
import { listedThen, standingOf, stood } from '@/core/rounds/standing'
import { screeningAccount } from '@/core/screening/account'
import type { PeopleColumns } from '@/core/columns/people-columns'
import { columnsOf, directory, person } from '../../support/people'
import { momentFor, page, rules } from '../../support/lines'

const screening = (columns: PeopleColumns) => ({ ...momentFor(columns), exceptRounds: [], letThrough: [] })
const idsOf = ({ set, gone }: Crowd, columns: PeopleColumns) => [...columns.toIds(set), ...gone]

function freeze(
  people: PersonRecord[],
  lines: Parameters<typeof listAccount>[0],
  policy: Parameters<typeof screeningAccount>[1],
): FrozenRound {
  const columns = columnsOf(people)
  const account = listAccount(lines, columns, new Answers(columns.directory), momentFor(columns))
  const screened = screeningAccount(account.on, policy, columns, screening(columns))
  const heldBack = new Map<number, string>()
  for (const { rule, heldBack: held } of screened.rules) held.forEach((n) => heldBack.set(columns.idAt(n), rule))
  return {
    standing: standingOf(account, columns),
    clear: columns.toIds(screened.anyone),
    heldBack,
    rules: policy.map(({ id }) => id),
  }
}

/** The directory some time on: some withdrawn, some changed, some new. */
const later = fc
  .tuple(
    directory,
    fc.array(person, { maxLength: 10 }),
    fc.infiniteStream(fc.constantFrom('keep', 'keep', 'change', 'withdraw')),
    fc.infiniteStream(person),
  )
  .map(([before, fresh, fate, other]) => {
    const fates = [...take(fate, before.length)]
    const others = [...take(other, before.length)]
    const after = before.flatMap((p, i) => (fates[i] === 'withdraw' ? [] : fates[i] === 'change' ? [{ ...others[i], id: p.id }] : [p]))
    return { before, after: [...after, ...fresh.map((p, i) => ({ ...p, id: before.length + 1 + i }))] }
  })

function* take<T>(from: Iterable<T>, count: number): Generator<T> {
  let i = 0
  for (const value of from) {
    if (i++ === count) return
    yield value
  }
}

test('invariant 4: opening + joined − left is closing, listed and clear, and the rows hold exactly those people', () => {
  fc.assert(
    fc.property(later, page, page, rules, ({ before, after }, then, now, policy) => {
      const frozen = freeze(before, then, policy)
      const columns = columnsOf(after)
      const answers = new Answers(columns.directory)
      const [s1, s2] = [listAccount(then, columns, answers, momentFor(columns)), listAccount(now, columns, answers, momentFor(columns))]
      const screened = screeningAccount(s2.on, policy, columns, screening(columns))
      const sets = frozenSets(frozen, columns)
      const listed = requalifyListed([{ sets, then: s1 }], s2, columns)
      const clear = requalifyClear([{ sets }], s2.on, screened)
      const asSet = (ids: number[]) => new Set(ids)
      for (const [account, opened, closed] of [
        [listed, asSet(listedThen(frozen.standing)), asSet(columns.toIds(s2.on))],
        [clear, asSet(frozen.clear), asSet(columns.toIds(screened.anyone))],
      ] as const) {
        const { figures } = account
        expect(figures.opening).toBe(opened.size)
        expect(figures.closing).toBe(closed.size)
        expect(figures.opening - figures.left + figures.joined).toBe(figures.closing)
        expect(figures.stayed).toBe(figures.opening - figures.left)
        expect(asSet(idsOf(account.left, columns))).toEqual(asSet([...opened].filter((id) => !closed.has(id))))
        expect(asSet(idsOf(account.joined, columns))).toEqual(asSet([...closed].filter((id) => !opened.has(id))))
        expect(figures.rows.map((r) => r.count)).toEqual(account.members.map((m) => idsOf(m, columns).length))
      }
    }),
    { numRuns: 300 },
  )
})

test('a round opens with its supplements too: everybody in either once, and leavers by the edition they came with', () => {
  fc.assert(
    fc.property(later, page, page, page, rules, ({ before, after }, first, second, now, policy) => {
      const round = freeze(before, first, policy)
      const there = new Set(listedThen(round.standing))
      // A supplement holds whoever its edition lets in and the round does not hold.
      const whole = freeze(before, second, policy)
      const { ids, codes } = whole.standing
      const added: FrozenRound = {
        ...whole,
        standing: { ids, codes: codes.map((code, i) => (code === 0 && there.has(ids[i]) ? 1 : code)) },
        clear: whole.clear.filter((id) => !there.has(id)),
        heldBack: new Map([...whole.heldBack].filter(([id]) => !there.has(id))),
      }
      const columns = columnsOf(after)
      const answers = new Answers(columns.directory)
      const of = (lines: typeof now) => listAccount(lines, columns, answers, momentFor(columns))
      const today = of(now)
      const screened = screeningAccount(today.on, policy, columns, screening(columns))
      const parts = [
        { sets: frozenSets(round, columns), then: of(first) },
        { sets: frozenSets(added, columns), then: of(second) },
      ]
      const opened = new Set([...there, ...listedThen(added.standing)])
      for (const [account, from, to] of [
        [requalifyListed(parts, today, columns), opened, new Set(columns.toIds(today.on))],
        [requalifyClear(parts, today.on, screened), new Set([...round.clear, ...added.clear]), new Set(columns.toIds(screened.anyone))],
      ] as const) {
        const { figures } = account
        expect([figures.opening, figures.closing]).toEqual([from.size, to.size])
        expect(figures.opening - figures.left + figures.joined).toBe(figures.closing)
        expect(new Set(idsOf(account.left, columns))).toEqual(new Set([...from].filter((id) => !to.has(id))))
        expect(new Set(idsOf(account.joined, columns))).toEqual(new Set([...to].filter((id) => !from.has(id))))
        expect(figures.rows.map((r) => r.count)).toEqual(account.members.map((m) => idsOf(m, columns).length))
        // Whoever left by a line of the supplement came with it.
        figures.rows.forEach(({ cause }, i) => {
          if (!('part' in cause) || cause.part === undefined) return
          for (const id of idsOf(account.members[i], columns)) expect(there.has(id)).toBe(false)
        })
      }
    }),
    { numRuns: 200 },
  )
})

test('with the same edition nobody joins or leaves by the edition; with the same data nobody by the data', () => {
  fc.assert(
    fc.property(later, page, page, rules, ({ before, after }, then, now, policy) => {
      const frozen = freeze(before, then, policy)
      const causes = (people: PersonRecord[], edition: typeof then) => {
        const columns = columnsOf(people)
        const answers = new Answers(columns.directory)
        return requalifyListed(
          [{ sets: frozenSets(frozen, columns), then: listAccount(then, columns, answers, momentFor(columns)) }],
          listAccount(edition, columns, answers, momentFor(columns)),
          columns,
        ).figures.rows.map((r) => r.cause.by)
      }
      expect(causes(after, then)).not.toContain('edition')
      expect(causes(before, now)).not.toContain('data')
      expect(causes(before, then)).toEqual([])
    }),
  )
})

test('everybody’s standing is kept: on, never, or the line that decided and how', () => {
  fc.assert(
    fc.property(directory, page, (people, lines) => {
      const columns = columnsOf(people)
      const account = listAccount(lines, columns, new Answers(columns.directory), momentFor(columns))
      const { ids, codes } = standingOf(account, columns)
      expect([...ids].sort((a, b) => a - b)).toEqual(people.map((p) => p.id))
      ids.forEach((id, i) => {
        const n = columns.numberFor(id) as number
        const was = stood(codes[i])
        if ('line' in was) expect(account.decided[was.line][was.at === 'out' ? 'leftOut' : 'unknown'].has(n)).toBe(true)
        else expect((was.at === 'on' ? account.on : account.never).has(n)).toBe(true)
      })
    }),
  )
})
