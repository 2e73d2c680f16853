import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { bringOver, theirChanges } from '@/core/lists/bring-over'
import type { Line } from '@/core/lists/line'
import { page } from '../../support/lines'

const line = (id: string, word = id): Line => ({
  id,
  verb: 'keep',
  off: false,
  unknownAsYes: false,
  criterion: { kind: 'role', any: [word] },
})
const ids = (lines: Line[]) => lines.map((l) => l.id).join(' ')
const basis = [line('s'), line('a'), line('b'), line('c')]

describe('bringing over what somebody else changed', () => {
  test('a line they added stands after the line it follows on their page', () => {
    const mine = [line('s'), line('a'), line('m'), line('b'), line('c')]
    const theirs = [line('s'), line('a'), line('t'), line('b'), line('c'), line('u')]
    const changes = theirChanges(basis, mine, theirs)
    expect(changes.map((c) => [c.change.is, c.change.line.id, c.meetsMine])).toEqual([
      ['added', 't', false],
      ['added', 'u', false],
    ])
    expect(
      ids(
        bringOver(
          mine,
          theirs,
          changes.map((c) => c.change),
        ),
      ),
    ).toBe('s a t m b c u')
  })
  test('a line both changed is told; brought over, theirs takes its place; left, mine stays', () => {
    const mine = [line('s'), line('a', 'mine'), line('b'), line('c')]
    const theirs = [line('s'), line('a', 'theirs'), line('b')]
    const changes = theirChanges(basis, mine, theirs)
    expect(changes.map((c) => [c.change.is, c.change.line.id, c.meetsMine])).toEqual([
      ['changed', 'a', true],
      ['removed', 'c', false],
    ])
    expect(
      bringOver(
        mine,
        theirs,
        changes.map((c) => c.change),
      ),
    ).toEqual(theirs)
    expect(
      bringOver(
        mine,
        theirs,
        changes.slice(1).map((c) => c.change),
      ),
    ).toEqual([line('s'), line('a', 'mine'), line('b')])
  })
  test('a line they moved moves with my wording; one I removed that they changed comes back only as they have it', () => {
    const mine = [line('s'), line('a'), line('b'), line('c', 'mine')]
    const theirs = [line('s'), line('c'), line('a'), line('b')]
    const [moved] = theirChanges(basis, mine, theirs)
    expect(moved.change.is).toBe('moved')
    expect(bringOver(mine, theirs, [moved.change])).toEqual([line('s'), line('c', 'mine'), line('a'), line('b')])
    const without = [line('s'), line('b'), line('c')]
    const changed = [line('s'), line('a', 'theirs'), line('b'), line('c')]
    expect(
      bringOver(
        without,
        changed,
        theirChanges(basis, without, changed).map((c) => c.change),
      ),
    ).toEqual(changed)
  })
  test('who changed nothing gets their page whole; who brings over nothing keeps their own', () => {
    fc.assert(
      fc.property(page, page, (from, theirs) => {
        const brought = bringOver(
          from,
          theirs,
          theirChanges(from, from, theirs).map((c) => c.change),
        )
        expect(new Set(brought.map((l) => JSON.stringify(l)))).toEqual(new Set(theirs.map((l) => JSON.stringify(l))))
        expect(bringOver(from, theirs, [])).toEqual(from)
      }),
    )
  })
})
