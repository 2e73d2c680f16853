import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Criterion } from '@/core/criteria/registry'
import { type Line, samePage } from '@/core/lists/line'
import { LONGEST_NAME, namesFrom } from '@/core/lists/naming'
import { crossed, holdsProposal, proposed, withProposal } from '@/core/lists/proposals'
import { allows, LIST_ROLES, validSharing } from '@/core/records/list-roles'
import { STARTING_LISTS } from '@/core/lists/starting'
import { page } from '../../support/lines'

const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const line = (id: string, word = id, verb: 'keep' | 'drop' = 'keep'): Line => ({
  id,
  verb,
  off: false,
  unknownAsYes: false,
  criterion: { kind: 'role', any: [word] },
})
const keep = (criterion: Criterion): Line => ({ id: criterion.kind, verb: 'keep', off: false, unknownAsYes: false, criterion })

describe('roles', () => {
  test('each holds those before it, and no role holds none', () => {
    for (const [i, role] of LIST_ROLES.entries()) for (const [j, needed] of LIST_ROLES.entries()) expect(allows(role, needed)).toBe(i >= j)
    expect(LIST_ROLES.some((needed) => allows(null, needed))).toBe(false)
  })
  test('a sharing from outside names roles there are, and each person once', () => {
    expect(
      validSharing({
        team: null,
        members: [
          { id: 'a', role: 'see' },
          { id: 'a', role: 'edit' },
        ],
      }),
    ).toEqual({ team: null, members: [{ id: 'a', role: 'edit' }] })
    expect(() => validSharing({ team: 'own', members: [] })).toThrow(/what the team may do/)
    expect(() => validSharing({ team: 'see', members: [{ id: 'a', role: 'own' }] })).toThrow(/who may do what/)
    expect(() => validSharing(undefined)).toThrow(/what the team may do/)
  })
})

describe('a proposal', () => {
  const basis = [start, line('a'), line('b'), line('c')]
  test('brings what it adds, rewords and removes to the list as it stands now, and leaves the rest', () => {
    const wish = [start, line('a', 'other'), line('n'), line('c')]
    const now = [start, line('a'), line('b'), line('x'), line('c')]
    expect(proposed(basis, wish).map((c) => `${c.is} ${c.line.id}`)).toEqual(['changed a', 'removed b', 'added n'])
    expect(withProposal(basis, wish, now)).toEqual([start, line('a', 'other'), line('n'), line('x'), line('c')])
    expect(crossed(basis, wish, now)).toEqual([])
  })
  test('says where a line it changes was changed otherwise since', () => {
    const wish = [start, line('a', 'wish'), line('b')]
    expect(crossed(basis, wish, [start, line('a', 'meanwhile'), line('b')])).toEqual(['a', 'c'])
  })
  test('is held by a page that says what it says, whatever else stands there', () => {
    const wish = [start, line('a', 'other'), line('b'), line('c'), line('n')]
    expect(holdsProposal(basis, wish, [start, line('n'), line('a', 'other')])).toBe(true)
    expect(holdsProposal(basis, wish, [start, line('a', 'other')])).toBe(false)
    expect(holdsProposal(basis, wish, [start, line('n'), line('a')])).toBe(false)
    // A removed line that still stands, and one that is only moved.
    expect(holdsProposal(basis, [start, line('a'), line('b')], basis)).toBe(false)
    const moved = [start, line('c'), line('a'), line('b')]
    expect(holdsProposal(basis, moved, basis)).toBe(false)
    expect(holdsProposal(basis, moved, moved)).toBe(true)
  })
  test('made from the page that stands gives what was proposed, and is held by it; none is held by nothing', () => {
    fc.assert(
      fc.property(page, page, (basis, wish) => {
        const now = withProposal(basis, wish, basis)
        expect(new Set(now.map((l) => JSON.stringify(l)))).toEqual(new Set(wish.map((l) => JSON.stringify(l))))
        if (proposed(basis, wish).some((c) => c.is !== 'moved')) expect(holdsProposal(basis, wish, now)).toBe(true)
        expect(holdsProposal(basis, basis, basis)).toBe(false)
        expect(crossed(basis, wish, basis)).toEqual([])
      }),
    )
  })
  test('that adds one line keeps the order of all others, wherever the list went meanwhile', () => {
    fc.assert(
      fc.property(page, page, fc.nat(), (basis, now, at) => {
        const place = 1 + (at % basis.length)
        const wish = [...basis.slice(0, place), line('added-by-proposal'), ...basis.slice(place)]
        const after = withProposal(basis, wish, now)
        expect(
          samePage(
            after.filter((l) => l.id !== 'added-by-proposal'),
            now,
          ),
        ).toBe(true)
        expect(after.filter((l) => l.id === 'added-by-proposal')).toHaveLength(1)
      }),
    )
  })
})

describe('names from lines', () => {
  test('say who, where and what else, the shortest first', () => {
    const lines = [
      start,
      keep({ kind: 'function', any: ['estates and facilities'] }),
      keep({ kind: 'place', towns: ['Thornmouth', 'Low Wendle'], postcodes: [] }),
      keep({ kind: 'tag', any: ['roof'] }),
      { ...keep({ kind: 'relation', any: ['customer'] }), verb: 'drop' } as Line,
    ]
    expect(namesFrom(lines)).toEqual([
      'Estates and facilities, in Thornmouth or Low Wendle',
      'Estates and facilities, tagged roof, in Thornmouth or Low Wendle',
      'Estates and facilities, tagged roof, in Thornmouth or Low Wendle, without customer',
    ])
  })
  test('leave out lines that are switched off, count many values, and name a list of everyone by that', () => {
    const towns = ['Thornmouth', 'Low Wendle', 'Wendle Cross', 'Kettlehythe']
    expect(namesFrom([start, { ...keep({ kind: 'tag', any: ['roof'] }), off: true }])).toEqual(['Everyone'])
    expect(namesFrom([start, keep({ kind: 'place', towns, postcodes: [] })])).toEqual(['In Thornmouth, Low Wendle and 2 more'])
    expect(namesFrom([{ ...start, subject: 'premises' } as Line])).toEqual(['Premises'])
  })
  test('are names a list can have, whatever the lines', () => {
    fc.assert(
      fc.property(page, (lines) => {
        const names = namesFrom(lines)
        expect(names.length).toBeGreaterThan(0)
        expect(new Set(names).size).toBe(names.length)
        for (const name of names) expect(name.trim().length > 0 && name.length <= LONGEST_NAME && !name.includes('  ')).toBe(true)
      }),
    )
    for (const { lines } of STARTING_LISTS) expect(namesFrom(lines)[0]).not.toMatch(/which|undefined/)
  })
})
