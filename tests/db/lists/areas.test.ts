import { describe, expect, test } from 'vitest'
import { areasOf, listAreas } from '@/usecases/lists/areas'
import { listAccountFor } from '@/usecases/lists/list-account'
import { createList } from '@/usecases/lists/create-list'
import { keepArea } from '@/usecases/lists/keep-area'
import { putAreaAway } from '@/usecases/lists/put-area-away'
import { mapList } from '@/usecases/lists/map-list'
import { findStreet } from '@/usecases/lists/find-street'
import { givenThreeSubjects, t, start, keep, names, unknown } from './three-subjects'

givenThreeSubjects()

describe('areas', () => {
  const square = {
    polygons: [
      [
        [
          [1.49, 55.29],
          [1.51, 55.29],
          [1.51, 55.31],
          [1.49, 55.31],
        ],
      ],
    ],
    circles: [],
    streets: [],
  }
  test('are kept, named in lines, drawn anew and put away; lines go on with the one they name', async () => {
    const { id, name } = await keepArea(t.ines, { name: 'Round the quay', shape: square, shared: true, named: true })
    const lines = [start(), keep({ kind: 'area', areas: [{ id, name }] })]
    expect(await names(lines)).toEqual(['Maud Ellery', 'Tomas Pike', 'Priya Rao'])
    expect(await unknown(lines)).toEqual([])
    const anew = await keepArea(t.ines, {
      name: 'Round the quay',
      shape: { ...square, circles: [{ lat: 55.32, lon: 1.55, metres: 50 }] },
      shared: true,
      named: true,
      replaces: id,
    })
    expect((await listAreas(t.tam)).map((a) => a.id)).toEqual([anew.id])
    expect(await names(lines)).toHaveLength(3)
    expect(await names([start(), keep({ kind: 'area', areas: [anew] })])).toHaveLength(4)
    await expect(keepArea(t.tam, { name: 'Mine', shape: square, shared: true, named: true, replaces: anew.id })).rejects.toThrow(
      'Only the owner of an area',
    )
    await putAreaAway(t.ines, anew.id, true)
    // What it took the place of is offered again.
    expect((await listAreas(t.tam)).map((a) => a.id)).toEqual([id])
    await putAreaAway(t.ines, anew.id, false)
  })
  test('a private one is seen by nobody else, and no shared list names it', async () => {
    const { id, name } = await keepArea(t.tam, { name: 'My patch', shape: square, shared: false, named: true })
    expect((await areasOf(t.ines, [id])).length).toBe(0)
    await expect(names([start(), keep({ kind: 'area', areas: [{ id, name }] })])).rejects.toThrow('private to somebody else')
    await expect(createList(t.tam, 'Shared', true, [start(), keep({ kind: 'area', areas: [{ id, name }] })])).rejects.toThrow(
      'A shared list cannot name the area “My patch”',
    )
    await expect(names([start(), keep({ kind: 'area', areas: [{ id: 9999, name: 'gone' }] })])).rejects.toThrow('does not exist')
  })
  test('what cannot be drawn is refused with its sentence, and the table of areas refuses a change of shape', async () => {
    await expect(
      keepArea(t.ines, {
        name: 'Bow',
        shape: {
          polygons: [
            [
              [
                [0, 0],
                [1, 1],
                [1, 0],
                [0, 1],
              ],
            ],
          ],
        },
        shared: true,
        named: true,
      }),
    ).rejects.toThrow('crosses itself')
    await expect(t.app('area').update({ shape: '{}' })).rejects.toThrow(/permission denied/)
  })
  test('records are gathered on the map, counted in a shape, and told of by street', async () => {
    const found = await mapList(t.ines, { lines: [start()], view: { tab: 'on' }, box: [1.4, 55.2, 1.6, 55.4], columns: 20, shape: square })
    expect([found.placed, found.total, found.inShape]).toEqual([4, 4, 3])
    expect(found.points.reduce((sum, p) => sum + p.count, 0)).toBe(4)
    expect(await findStreet(t.ines, { typed: 'Mil Lane', lines: [start()] })).toMatchObject({
      exact: 0,
      likely: [{ street: 'Mill Lane', count: 3 }],
    })
    expect(await findStreet(t.ines, { typed: 'mill ln' })).toMatchObject({ exact: 3 })
    const { page } = await listAccountFor(t.ines, { lines: [start()], view: { tab: 'on' }, place: { shape: square } })
    expect(page.records.map((r) => r.title)).toEqual(['Maud Ellery', 'Tomas Pike', 'Priya Rao'])
    // Streets that are typed count in what is drawn, as they will in its line.
    const street = { polygons: [], circles: [], streets: [{ street: 'Mill Lane', from: 7, to: null, side: 'both' as const }] }
    expect(
      (
        await mapList(t.ines, {
          lines: [start()],
          view: { tab: 'on' },
          box: [1.4, 55.2, 1.6, 55.4],
          columns: 20,
          shape: { ...street, polygons: square.polygons },
        })
      ).inShape,
    ).toBe(4)
    expect(
      (await mapList(t.ines, { lines: [start()], view: { tab: 'on' }, box: [1.4, 55.2, 1.6, 55.4], columns: 20, shape: street })).inShape,
    ).toBe(1)
  })
})
