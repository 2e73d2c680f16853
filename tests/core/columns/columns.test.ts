import fc from 'fast-check'
import { expect, test } from 'vitest'
import { Bitset } from '@/core/columns/bitset'
import { NumberOf } from '@/core/columns/number-of'
import { Directory } from '@/core/columns/directory'
import type { PeopleColumns } from '@/core/columns/people-columns'
import { Slices } from '@/core/columns/slices'
import { WordColumn } from '@/core/columns/words'
import { ACTORS, blank, columnsOf, directory, person } from '../../support/people'
import { CHANNELS } from '@/core/records/channels'

test('columns that followed changes say what columns made at once say', () => {
  fc.assert(
    fc.property(directory, fc.array(fc.tuple(fc.nat(59), person)), fc.array(fc.nat(59), { maxLength: 5 }), (people, changes, gone) => {
      const followed = columnsOf(people)
      // Sums that were asked for before the changes are kept up with them.
      const asked = [
        [CHANNELS, null],
        [['phone'], null],
        [CHANNELS, ACTORS[0]],
      ] as const
      for (const [ways, by] of asked) followed.contactSums(ways, by)
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
      for (const channel of ['email', 'phone', 'post'] as const)
        expect(ids(followed, followed.usable[channel])).toEqual(ids(fresh, fresh.usable[channel]))
      for (const tag of ['large roof', 'newsletter'])
        expect(ids(followed, followed.tags.get(tag) ?? new Bitset())).toEqual(ids(fresh, fresh.tags.get(tag) ?? new Bitset()))
      for (const batch of [1, 2, 3])
        expect(ids(followed, followed.batches.get(batch) ?? new Bitset())).toEqual(ids(fresh, fresh.batches.get(batch) ?? new Bitset()))
      for (const id of last.keys()) {
        const [a, b] = [followed.numberFor(id) as number, fresh.numberFor(id) as number]
        for (const column of ['role', 'county', 'street', 'town', 'postcode', 'relation'] as const)
          expect(followed[column].get(a)).toBe(fresh[column].get(b))
        expect(followed.contacts.count(a)).toBe(fresh.contacts.count(b))
        for (const [ways, by] of asked) {
          const [kept, anew] = [followed.contactSums(ways, by), fresh.contactSums(ways, by)]
          expect([kept.last[a], kept.count[a]]).toEqual([anew.last[b], anew.count[b]])
        }
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
      const columns = new Directory().people
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
  const columns = new Directory().people
  const record = { ...blank, id: 7, sortKey: 'a' }
  columns.put(record)
  columns.remove(7)
  columns.put({ ...record, id: 8 })
  expect([columns.numberFor(7), columns.numberFor(8)]).toEqual([0, 1])
  expect(columns.numbers([7, 8, 9]).toArray()).toEqual([0, 1])
  expect(columns.live.toArray()).toEqual([1])
})

const word = fc.oneof(fc.constantFrom('', 'a', 'ab', 'b', '\uFEFFmark', 'ö', 'o\u0308', '𝓔'), fc.string({ unit: 'grapheme', maxLength: 8 }))

test('words found by their bytes are the words found as text, each with one code', () => {
  fc.assert(
    fc.property(fc.array(fc.option(word), { maxLength: 700 }), fc.nat(3), (words, every) => {
      const [byText, byBytes] = [new WordColumn(), new WordColumn()]
      words.forEach((text, n) => {
        byText.set(n, text)
        // Some come in as text even so, as they do when a record changes after everybody was read.
        if (text === null || n % (every + 1) === 0) byBytes.set(n, text)
        else {
          const bytes = Buffer.from(`before${text}after`)
          byBytes.setBytes(n, bytes, 6, bytes.length - 11)
        }
      })
      for (let n = -1 + words.length; n >= 0; n--) expect(byBytes.get(n)).toBe(words[n])
      expect(byBytes.words).toEqual(byText.words)
      expect(new Set(byBytes.words).size).toBe(byBytes.words.length)
      expect(byBytes.get(words.length)).toBeNull()
    }),
    { numRuns: 60 },
  )
})

test('thousands of words keep their codes while the table of their bytes grows', () => {
  const column = new WordColumn()
  for (let pass = 0; pass < 2; pass++) {
    for (let i = 0; i < 5000; i++) {
      const bytes = Buffer.from(`word ${i * 7919}`)
      column.setBytes(pass * 5000 + i, bytes, 0, bytes.length)
    }
  }
  expect(column.words).toHaveLength(5000)
  for (let i = 0; i < 5000; i++) expect(column.codeAt(5000 + i)).toBe(column.codeAt(i))
})

test('rows taken in at once, in any order, stand as rows replaced record by record do', () => {
  const rows = fc.array(
    fc.record({ n: fc.nat(12), place: fc.integer({ min: -2, max: 2 }), id: fc.nat(1000), at: fc.double({ noNaN: true }) }),
    { maxLength: 80 },
  )
  fc.assert(
    fc.property(rows, (all) => {
      const unlike = all.filter(
        (row, i) => all.findIndex((other) => other.n === row.n && other.place === row.place && other.id === row.id) === i,
      )
      const shape = { id: 'int32', at: 'float64', n: 'uint8' } as const
      const [loaded, replaced] = [new Slices(shape), new Slices(shape)]
      const loader = loaded.loader()
      for (const row of unlike) loader.add(row.n, row.place, row.id, row.at, row.n)
      loader.done()
      for (let n = 0; n <= 12; n++) {
        const own = unlike.filter((row) => row.n === n).sort((a, b) => a.place - b.place || a.id - b.id)
        replaced.replace(n, own, (fields, at, row) => {
          fields.id[at] = row.id
          fields.at[at] = row.at
          fields.n[at] = row.n
        })
        const said = (slices: Slices<'id' | 'at' | 'n'>) =>
          Array.from({ length: slices.count(n) }, (_, i) => [
            slices.fields.id[slices.first(n) + i],
            slices.fields.at[slices.first(n) + i],
            slices.fields.n[slices.first(n) + i],
            slices.owner[slices.first(n) + i],
          ])
        expect(said(loaded)).toEqual(said(replaced))
        expect(said(loaded)).toEqual(own.map((row) => [row.id, row.at, n, n]))
      }
    }),
  )
})

test('record numbers by id, small and very large, are those that were set last', () => {
  const id = fc.oneof(fc.nat(100), fc.integer({ min: 2 ** 26 - 2, max: 2 ** 26 + 2 }), fc.integer({ min: 2 ** 40, max: 2 ** 40 + 3 }))
  fc.assert(
    fc.property(fc.array(id, { maxLength: 40 }), fc.array(id, { maxLength: 20 }), (ids, others) => {
      const [numbers, map] = [new NumberOf(), new Map<number, number>()]
      ids.forEach((each, n) => {
        numbers.set(each, n)
        map.set(each, n)
      })
      for (const each of [...ids, ...others, -1, 2 ** 31]) expect(numbers.get(each)).toBe(map.get(each))
    }),
    { numRuns: 30 },
  )
})

test('contacts to come of some rounds are replaced, those of others stay', () => {
  const toCome = fc.array(
    fc.record({
      round: fc.integer({ min: 1, max: 4 }),
      channel: fc.constantFrom('email' as const, 'phone' as const, 'post' as const),
      since: fc.constant(0),
    }),
    { maxLength: 4 },
  )
  fc.assert(
    fc.property(
      fc.array(toCome, { minLength: 1, maxLength: 6 }),
      fc.array(toCome, { maxLength: 6 }),
      fc.subarray([1, 2, 3, 4]),
      (before, after, rounds) => {
        const byRound = (a: { round: number; channel: string }, b: { round: number; channel: string }) =>
          a.round - b.round || ['email', 'phone', 'post'].indexOf(a.channel) - ['email', 'phone', 'post'].indexOf(b.channel)
        const columns = new Directory().people
        before.forEach((own, i) => columns.put({ ...blank, id: i + 1, toCome: [...own].sort(byRound) }))
        const fresh = new Map(
          after
            .slice(0, before.length)
            .map((own, i) => [i + 1, own.filter((t) => rounds.includes(t.round))] as const)
            .filter(([, own]) => own.length > 0),
        )
        const version = columns.version
        columns.putToCome(rounds, fresh)
        expect(columns.version).toBeGreaterThan(version)
        before.forEach((own, i) => {
          const expected = [...own.filter((t) => !rounds.includes(t.round)), ...(fresh.get(i + 1) ?? [])].sort(byRound)
          expect(columns.toCome.get(columns.numberFor(i + 1) as number) ?? []).toEqual(expected)
        })
      },
    ),
  )
})
