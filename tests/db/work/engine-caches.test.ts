import { beforeAll, describe, expect, test } from 'vitest'
import { Areas } from '@/engine/areas'
import { FrozenRounds } from '@/engine/frozen-rounds'
import { PickSets } from '@/engine/pick-sets'
import { freshDatabase, type TestDatabase } from '../../support/database'

/** What the engine keeps of what never changes: as much as is asked for at once, however little is kept. */

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
})

/** A database that counts how often it is asked. */
function counting() {
  let asked = 0
  const db = new Proxy(t.app, {
    apply(target, self, args) {
      asked++
      return Reflect.apply(target as never, self, args)
    },
  })
  return { db, asked: () => asked }
}

describe('sets of picked people', () => {
  let ids: number[]
  beforeAll(async () => {
    ids = (
      await t.app('pick_set').insert(
        Array.from({ length: 250 }, (_, i) => ({ people: [i, i + 1], made_by: t.ines.id, made_at: new Date() })),
        'id',
      )
    ).map(({ id }) => id)
  })

  test('all that are asked for come, more than are kept', async () => {
    const sets = await new PickSets(t.app).get(ids)
    expect(sets.size).toBe(250)
    expect(ids.map((id) => sets.get(id))).toEqual(ids.map((_, i) => [i, i + 1]))
  })

  test('what was asked for lately is not asked again, each once however often it is named', async () => {
    const { db, asked } = counting()
    const sets = new PickSets(db)
    await sets.get([ids[0], ids[0], ids[1]])
    expect(asked()).toBe(1)
    expect(await sets.get([ids[1], ids[0]])).toEqual(
      new Map([
        [ids[1], [1, 2]],
        [ids[0], [0, 1]],
      ]),
    )
    expect(asked()).toBe(1)
    await sets.get([ids[0], ids[2]])
    expect(asked()).toBe(2)
  })

  test('one that is not there is not among them', async () => {
    expect((await new PickSets(t.app).get([ids[0], 999_999])).has(999_999)).toBe(false)
  })
})

test('shapes of areas come all, more than are kept, and are not asked for again', async () => {
  const shape = (i: number) => ({ polygons: [], circles: [{ lat: 55, lon: 1, metres: i + 1 }], streets: [] })
  const rows = Array.from({ length: 520 }, (_, i) => ({
    name: `area ${i}`,
    shared: false,
    named: true,
    shape: JSON.stringify(shape(i)),
    owner_id: t.ines.id,
    created_at: new Date(),
  }))
  const ids: number[] = (await t.app('area').insert(rows, 'id')).map(({ id }) => id)
  const { db, asked } = counting()
  const areas = new Areas(db)
  const all = await areas.get(ids)
  expect(ids.map((id) => all.get(id))).toEqual(ids.map((_, i) => shape(i)))
  expect(asked()).toBe(1)
  expect((await areas.get(ids.slice(-3))).size).toBe(3)
  expect(asked()).toBe(1)
})

test('a frozen round that could not be read is read again when it is asked for again', async () => {
  let broken = true
  const db = new Proxy(t.app, {
    get(target, key) {
      if (key === 'transaction' && broken) return () => Promise.reject(new Error('the database is away'))
      return Reflect.get(target, key)
    },
    apply(target, self, args) {
      if (broken) throw new Error('the database is away')
      return Reflect.apply(target as never, self, args)
    },
  })
  const rounds = new FrozenRounds(db)
  await expect(rounds.get(1)).rejects.toThrow(/away/)
  broken = false
  // There is no such round, which is another answer than the one before.
  await expect(rounds.get(1)).rejects.not.toThrow(/away/)
})
