import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Sighting } from '@/core/changes/sighting'
import { timelineOf } from '@/core/changes/timeline'

const seen = (entry: number, value: string, day: string, source = `s${entry}`, stated = false): Sighting => ({
  entry,
  value,
  day,
  source,
  stated,
})
const short = (sightings: Sighting[]) => timelineOf(sightings).map((e) => `${e.from}→${e.to} (${e.after}, ${e.by}] ${e.sure}`)

describe('the changes of a field', () => {
  test('a change lies after the last day it was seen otherwise and by the first day it was seen so', () => {
    expect(short([seen(1, 'a', '2026-08-14'), seen(2, 'a', '2026-10-02'), seen(3, 'b', '2026-11-20')])).toEqual([
      'a→b (2026-10-02, 2026-11-20] likely',
    ])
  })

  test('a source that states the day narrows it to the day', () => {
    const stated = seen(3, 'b', '2026-11-03', 'feed', true)
    expect(short([seen(1, 'a', '2026-10-02'), stated, seen(4, 'b', '2026-11-20')])).toEqual(['a→b (2026-11-02, 2026-11-03] stated'])
  })

  test('a later report of the same value is another source and no change', () => {
    const [edge, ...more] = timelineOf([seen(1, 'a', '2026-01-01'), seen(2, 'b', '2026-02-01'), seen(3, 'b', '2026-03-01')])
    expect(more).toEqual([])
    expect(edge).toMatchObject({ reports: [2, 3], sources: 2 })
  })

  test('a report that comes late splits a change in two', () => {
    const known = [seen(1, 'a', '2026-01-01'), seen(2, 'c', '2026-05-01')]
    expect(short(known)).toEqual(['a→c (2026-01-01, 2026-05-01] likely'])
    expect(short([...known, seen(3, 'b', '2026-03-01')])).toEqual([
      'a→b (2026-01-01, 2026-03-01] likely',
      'b→c (2026-03-01, 2026-05-01] likely',
    ])
  })

  test('a source that never saw the newer value and still says the older one disagrees', () => {
    expect(short([seen(1, 'a', '2026-01-01', 'x'), seen(2, 'b', '2026-02-01', 'y'), seen(3, 'a', '2026-03-01', 'z')])).toEqual([
      'a→b (2026-01-01, 2026-02-01] likely',
      'b→a (2026-02-01, 2026-03-01] to be confirmed',
    ])
  })

  test('when it catches up, there is one change that both tell of', () => {
    const edges = timelineOf([
      seen(1, 'a', '2026-01-01', 'x'),
      seen(2, 'b', '2026-02-01', 'y'),
      seen(3, 'a', '2026-03-01', 'z'),
      seen(4, 'b', '2026-04-01', 'z'),
    ])
    expect(edges).toHaveLength(1)
    expect(edges[0]).toMatchObject({ from: 'a', to: 'b', by: '2026-02-01', reports: [2, 4], sources: 2 })
  })

  test('a source that itself went back is believed', () => {
    expect(short([seen(1, 'a', '2026-01-01', 'x'), seen(2, 'b', '2026-02-01', 'x'), seen(3, 'a', '2026-03-01', 'x')])).toHaveLength(2)
    expect(
      timelineOf([seen(1, 'a', '2026-01-01', 'x'), seen(2, 'b', '2026-02-01', 'x'), seen(3, 'a', '2026-03-01', 'x')])[1].disagrees,
    ).toBe(false)
  })

  test('on one day what was so before comes first and what is so after it last', () => {
    expect(short([seen(1, 'z', '2026-01-01'), seen(2, 'a', '2026-02-01'), seen(3, 'z', '2026-02-01'), seen(4, 'a', '2026-03-01')])).toEqual(
      ['z→a (2026-01-31, 2026-02-01] likely'],
    )
  })
})

const day = fc.integer({ min: 1, max: 28 }).map((d) => `2026-03-${String(d).padStart(2, '0')}`)
const sightings = fc
  .array(fc.tuple(fc.constantFrom('a', 'b', 'c'), day, fc.constantFrom('x', 'y', 'z'), fc.boolean()), { maxLength: 12 })
  .map((all) => all.map(([value, at, source, stated], i) => seen(i + 1, value, at, source, stated)))

describe('whatever is reported', () => {
  test('the order in which reports come makes no difference', () => {
    fc.assert(
      fc.property(
        sightings.chain((all) => fc.tuple(fc.constant(all), fc.shuffledSubarray(all, { minLength: all.length }))),
        ([all, shuffled]) => {
          expect(timelineOf(shuffled)).toEqual(timelineOf(all))
        },
      ),
      { numRuns: 300 },
    )
  })

  test('changes follow each other: each begins with what the one before ended with, and no report is in two', () => {
    fc.assert(
      fc.property(sightings, (all) => {
        const edges = timelineOf(all)
        for (let i = 1; i < edges.length; i++) {
          expect(edges[i].from).toBe(edges[i - 1].to)
          expect(edges[i].by >= edges[i - 1].by).toBe(true)
        }
        const told = edges.flatMap((e) => e.reports)
        expect(new Set(told).size).toBe(told.length)
        for (const edge of edges) {
          expect(edge.from).not.toBe(edge.to)
          expect(edge.after !== null && edge.after < edge.by).toBe(true)
          // The interval is proved: one saw the new value on its last day, and nobody saw it in the stretch before it began.
          expect(all.some((s) => s.value === edge.to && s.day === edge.by)).toBe(true)
        }
      }),
      { numRuns: 300 },
    )
  })

  test('telling everything a second time changes nothing but the number of reports', () => {
    fc.assert(
      fc.property(sightings, (all) => {
        const again = all.map((s) => ({ ...s, entry: s.entry + 100 }))
        const bare = (of: Sighting[]) => timelineOf(of).map(({ reports: _, fromEntry: __, ...edge }) => edge)
        expect(bare([...all, ...again])).toEqual(bare(all))
      }),
      { numRuns: 300 },
    )
  })
})
