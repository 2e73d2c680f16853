import fc from 'fast-check'
import { fold } from '@/core/clean/fold'
import { expect, test } from 'vitest'
import { type FindWord, findPeople, SORTS, saysWords, sorted } from '@/core/columns/find'
import { columnsOf, directory } from '../../support/people'

const word: fc.Arbitrary<FindWord> = fc.record({
  text: fc.constantFrom('maud', 'zoe', 'hoek', 'van', 'el', 'school', 'nobody', 'brew', 'estates', 'head', 'north', 'marle'),
  ids: fc.uniqueArray(fc.integer({ min: 1, max: 60 }), { maxLength: 3 }),
})

test('finding over columns and on one record agree, and more words find no more people', () => {
  fc.assert(
    fc.property(directory, fc.array(word, { maxLength: 3 }), (people, words) => {
      const columns = columnsOf(people)
      const found = new Set(columns.toIds(findPeople(columns, words)))
      for (const p of people) expect(found.has(p.id)).toBe(saysWords(p, words))
      if (words.length > 0)
        expect(
          findPeople(columns, words)
            .andNot(findPeople(columns, words.slice(1)))
            .isEmpty(),
        ).toBe(true)
    }),
    { numRuns: 300 },
  )
})

test('sorted any way they are the same people, ties in the order of names', () => {
  fc.assert(
    fc.property(directory, fc.constantFrom(...SORTS.filter((s) => s !== 'name')), (people, sort) => {
      const columns = columnsOf(people)
      const key = (id: number): string | number => {
        const p = people[id - 1]
        if (sort === 'organisation') return p.employer ? fold(p.employer.name) : '\uFFFF'
        if (sort === 'town') return p.town ?? '\uFFFF'
        if (sort === 'newest') return -id
        return p.contacts.length === 0 ? 0 : Math.max(...p.contacts.map((c) => Math.floor(c.at / 60_000)))
      }
      const place = new Map(Array.from(columns.inOrder(), (n, i) => [columns.idAt(n), i]))
      const ids = Array.from(sorted(columns, columns.live, sort), (n) => columns.idAt(n))
      const expected = people
        .map((p) => p.id)
        .sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : (place.get(a) as number) - (place.get(b) as number)))
      expect(ids).toEqual(expected)
    }),
  )
})
