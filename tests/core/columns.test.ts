import fc from 'fast-check'
import { expect, test } from 'vitest'
import { Bitset } from '@/core/columns/bitset'
import { PeopleColumns } from '@/core/columns/people-columns'
import { blank, columnsOf, directory, person } from '../support/people'

test('columns that followed changes say what columns made at once say', () => {
  fc.assert(
    fc.property(directory, fc.array(fc.tuple(fc.nat(59), person)), fc.array(fc.nat(59), { maxLength: 5 }), (people, changes, gone) => {
      const followed = columnsOf(people)
      const last = new Map(people.map((p) => [p.id, p]))
      for (const [i, p] of changes) {
        const record = { ...p, id: (i % people.length) + 1 }
        followed.put(record)
        last.set(record.id, record)
      }
      for (const i of gone) {
        followed.remove((i % people.length) + 1)
        last.delete((i % people.length) + 1)
      }
      const fresh = columnsOf([...last.values()])
      const ids = (columns: PeopleColumns, set: Bitset) => columns.toIds(set.and(columns.live)).sort((a, b) => a - b)
      expect(ids(followed, followed.live)).toEqual(ids(fresh, fresh.live))
      for (const channel of ['email', 'phone', 'post'] as const) expect(ids(followed, followed.usable[channel])).toEqual(ids(fresh, fresh.usable[channel]))
      for (const tag of ['large roof', 'newsletter']) expect(ids(followed, followed.tags.get(tag) ?? new Bitset())).toEqual(ids(fresh, fresh.tags.get(tag) ?? new Bitset()))
      for (const batch of [1, 2, 3]) expect(ids(followed, followed.batches.get(batch) ?? new Bitset())).toEqual(ids(fresh, fresh.batches.get(batch) ?? new Bitset()))
      for (const id of last.keys()) {
        const [a, b] = [followed.numberFor(id) as number, fresh.numberFor(id) as number]
        for (const column of ['role', 'industry', 'county', 'town', 'postcode', 'relation'] as const) expect(followed[column].get(a)).toBe(fresh[column].get(b))
        expect(followed.contacts.count(a)).toBe(fresh.contacts.count(b))
        expect(followed.suppressed.get(a)).toEqual(fresh.suppressed.get(b))
      }
    }),
  )
})

test('pages of a set are the set, in the order in which people are shown, each once', () => {
  fc.assert(
    fc.property(directory, fc.integer({ min: 1, max: 20 }), (people, size) => {
      const columns = columnsOf(people)
      const pages: number[] = []
      for (let offset = 0; offset < people.length; offset += size) pages.push(...columns.page(columns.live, offset, size))
      const expected = [...people].sort((a, b) => (a.sortKey < b.sortKey ? -1 : a.sortKey > b.sortKey ? 1 : a.id - b.id)).map((p) => p.id)
      expect(pages).toEqual(expected)
      expect(columns.page(columns.live, 0, 0)).toEqual([])
    }),
  )
})

test('the order in which people are shown follows renamings and newcomers', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(20), fc.constantFrom('a', 'b', 'c', 'd', 'e')), { maxLength: 60 }), fc.nat(5), (steps, every) => {
      const columns = new PeopleColumns()
      const keys = new Map<number, string>()
      steps.forEach(([id, sortKey], i) => {
        columns.put({ ...blank, id: id + 1, sortKey })
        keys.set(id + 1, sortKey)
        if (every > 0 && i % every === 0) columns.inOrder()
      })
      const number = (id: number) => columns.numberFor(id) as number
      const expected = [...keys].sort(([a, ka], [b, kb]) => (ka < kb ? -1 : ka > kb ? 1 : number(a) - number(b))).map(([id]) => id)
      expect(Array.from(columns.inOrder(), (n) => columns.idAt(n))).toEqual(expected)
    }),
  )
})

test('a record number is never given out again', () => {
  const columns = new PeopleColumns()
  const record = { ...blank, id: 7, sortKey: 'a' }
  columns.put(record)
  columns.remove(7)
  columns.put({ ...record, id: 8 })
  expect([columns.numberFor(7), columns.numberFor(8)]).toEqual([0, 1])
  expect(columns.numbers([7, 8, 9]).toArray()).toEqual([0, 1])
  expect(columns.live.toArray()).toEqual([1])
})
