import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { OWNER_KINDS } from '@/core/clean/premises'
import { REASONS } from '@/core/records/suppression'
import { FIRST_CHOICE, type LetterChoice, letterChoice, lettersCost, NAMED_FIRST, RECIPIENTS, WORDINGS } from '@/core/rounds/letter-choice'
import { householdName, lettersTo } from '@/core/rounds/premises-letters'
import type { LetterOwner, LetterPerson, LetterPlace, ScreenedPremises } from '@/core/screening/premises'
import { LETTERS_HEADING, lettersRows } from '@/core/text/letters-csv'

const place = (street: string, of: Partial<LetterPlace> = {}): LetterPlace => ({
  postal: { street, town: 'Thornmouth', postcode: 'PW1 1AA' },
  country: null,
  key: street.toLowerCase(),
  held: { address: null, household: null },
  asked: null,
  cameBack: false,
  written: null,
  inRound: null,
  before: false,
  ...of,
})
const person = (id: number, given: string, family: string, of: Partial<LetterPerson> = {}): LetterPerson => ({
  id,
  given,
  family,
  name: `${given} ${family}`,
  sort: `${family} ${given}`.toLowerCase(),
  works: false,
  relation: null,
  held: null,
  written: null,
  inRound: null,
  ...of,
})
const owner = (name: string, of: Partial<LetterOwner> = {}): LetterOwner => ({
  name,
  key: name.toLowerCase(),
  kind: null,
  place: place('9 Long Row'),
  person: null,
  organisation: null,
  held: null,
  ...of,
})
const premises = (id: number, of: Partial<ScreenedPremises> = {}): ScreenedPremises => ({
  id,
  name: `House ${id}`,
  place: place(`${id} Quay Street`),
  people: [],
  owner: null,
  takenOver: null,
  size: null,
  ...of,
})
const choice = (of: Partial<LetterChoice> = {}): LetterChoice => ({ ...FIRST_CHOICE, ...of })
const [ada, ben] = [person(1, 'Ada', 'Whitlock'), person(2, 'Ben', 'Whitlock')]

describe('to whoever is there', () => {
  const to = (wording: LetterChoice['wording'], people: LetterPerson[], of: Partial<ScreenedPremises> = {}) => {
    const { letters, held } = lettersTo([premises(1, { people, ...of })], choice({ wording }), null)
    return letters[0]?.addressee ?? held.get(1)?.rule
  }

  test('the wordings: the name, the name or the resident, the resident, the household', () => {
    expect(to('name', [ada, ben])).toBe('Ada Whitlock')
    expect(to('name or resident', [ada, ben])).toBe('Ada Whitlock or current resident')
    expect(to('name or resident', [])).toBe('Current resident')
    expect(to('resident', [ada])).toBe('Current resident')
    expect(to('household', [ada, ben])).toBe('Ada and Ben Whitlock')
    expect(to('name', [])).toBe('no name')
    expect(to('household', [])).toBe('no name')
  })

  test('the owner who lives there is named first, then who lives there, then who works there', () => {
    const works = person(3, 'Abe', 'Able', { works: true })
    expect(to('name', [works, ben])).toBe('Ben Whitlock')
    expect(to('name', [ada, ben], { owner: owner('Ben Whitlock', { person: ben }) })).toBe('Ben Whitlock')
    expect(to('household', [works, ada])).toBe('Ada Whitlock')
    expect(to('household', [works])).toBe('Abe Able')
  })

  test('a household’s name holds only those who are clear', () => {
    expect(to('household', [{ ...ada, held: 'returned post' }, ben])).toBe('Ben Whitlock')
    expect(to('household', [{ ...ada, held: 'opt-out' }, ben])).toBe('Ben Whitlock')
    expect(to('household', [{ ...ada, held: 'opt-out' }])).toBe('people')
  })

  test('after somebody there asked us to stop, nothing goes to whoever is there', () => {
    for (const reason of ['opt-out', 'complaint'] as const) {
      expect(to('resident', [{ ...ada, held: reason }, ben])).toBe('people')
      expect(to('name or resident', [{ ...ada, held: reason }, ben])).toBe('people')
    }
    // Somebody who gets post there and stands elsewhere in the directory speaks for the house as well, where nobody need be named.
    const there = { place: place('1 Quay Street', { asked: 'complaint' }) }
    expect(to('resident', [], there)).toBe('people')
    expect(to('name or resident', [ada], there)).toBe('people')
    expect(to('name', [ada], there)).toBe('Ada Whitlock')
    // Somebody who moved away speaks for nobody who is there now, and is not named.
    expect(to('name or resident', [{ ...ada, held: 'deceased or moved' }])).toBe('Current resident')
  })

  test('premises at one address share a letter', () => {
    const there = place('1 Quay Street')
    const { letters, figures } = lettersTo([premises(1, { place: there }), premises(2, { place: there }), premises(3)], choice(), null)
    expect(letters.map(({ premises: own }) => own)).toEqual([[1, 2], [3]])
    expect(figures).toMatchObject({ clear: 3, letters: 2, several: 1 })
  })
})

describe('to owners', () => {
  const toOwner = (all: ScreenedPremises[], of: Partial<LetterChoice> = {}, since: string | null = null) =>
    lettersTo(all, choice({ to: 'owner', ...of }), since)

  test('an owner of several gets one letter that names them by the rule', () => {
    const estate = owner('Wendle Estates')
    const all = [
      premises(1, { name: 'Barn', owner: estate, takenOver: '2024-01-01', size: 900 }),
      premises(2, { name: 'Mill', owner: estate, takenOver: '2025-06-01', size: 100 }),
      premises(3, { name: 'Annex', owner: estate, size: 500 }),
      premises(4, { name: 'Weir', owner: estate, takenOver: '2023-01-01' }),
    ]
    const about = (of: Partial<LetterChoice>) => toOwner(all, of).letters.map((letter) => letter.about)
    expect(about({ first: 'latest', most: 3 })).toEqual(['Mill, Barn, Weir and 1 more'])
    expect(about({ first: 'largest', most: 2 })).toEqual(['Barn, Annex and 2 more'])
    expect(about({ first: 'name', most: 1 })).toEqual(['Annex and 3 more'])
    expect(toOwner(all.slice(0, 2), { first: 'name' }).letters[0].about).toBe('Barn and Mill')
  })

  test('two owners of one name at two addresses get a letter each', () => {
    const other = owner('Wendle Estates', { place: place('1 Elsewhere') })
    expect(toOwner([premises(1, { owner: owner('Wendle Estates') }), premises(2, { owner: other })]).letters).toHaveLength(2)
  })

  test('what gets none is counted by its rule', () => {
    const all = [
      premises(1),
      premises(2, { owner: owner('A trust', { kind: 'trust' }) }),
      premises(3, { owner: owner('No address', { place: null }) }),
      premises(4, { owner: owner('Abroad', { place: place('1 Rue', { country: 'FR' }) }) }),
      premises(5, { owner: owner('Stopped', { held: 'opt-out' }) }),
      premises(6, { owner: owner('Customer', { person: person(9, 'Cy', 'Cole', { relation: 'customer' }) }) }),
      premises(7, { owner: owner('Written', { place: place('7 X', { written: '2026-06-01' }) }) }),
      premises(8, { owner: owner('Back', { place: place('8 X', { cameBack: true }) }) }),
      premises(9, { owner: owner('In a round', { place: place('9 X', { inRound: 'Roofs, round 2' }) }) }),
      premises(10, { owner: owner('Before', { place: place('10 X', { before: true }) }) }),
    ]
    const { held, letters } = toOwner(all, { without: ['trust'], abroad: false, onlyNew: true }, '2026-05-20')
    expect([...held].map(([id, { rule }]) => [id, rule])).toEqual([
      [1, 'no owner'],
      [2, 'owner kind'],
      [3, 'no address'],
      [4, 'abroad'],
      [5, 'owner'],
      [6, 'customer'],
      [7, 'written'],
      [8, 'address'],
      [9, 'open round'],
      [10, 'earlier round'],
    ])
    expect(letters).toEqual([])
    // Each setting lets its own through.
    expect(
      toOwner(all, {}, null)
        .letters.map(({ premises: [id] }) => id)
        .sort((a, b) => a - b),
    ).toEqual([2, 4, 7, 10])
  })
})

describe('whatever premises there are', () => {
  const reason = fc.option(fc.constantFrom(...REASONS), { freq: 5 })
  const day = fc.option(fc.constantFrom('2026-01-01', '2026-05-01', '2026-06-01'))
  const anyPlace = fc.option(
    fc
      .record({
        n: fc.integer({ min: 1, max: 4 }),
        country: fc.option(fc.constantFrom('FR', 'DE')),
        address: reason,
        household: reason,
        asked: fc.constantFrom(null, null, 'opt-out' as const, 'complaint' as const),
        cameBack: fc.boolean(),
        written: day,
        inRound: fc.option(fc.constant('Other, round 1')),
        before: fc.boolean(),
      })
      .map(({ n, address, household, ...of }) =>
        place(`${n} Row`, { ...of, key: `${of.country ?? ''}${n}`, held: { address, household } }),
      ),
    { freq: 6 },
  )
  const anyPerson = fc
    .record({
      id: fc.integer({ min: 1, max: 30 }),
      given: fc.constantFrom('Ada', 'Ben', ''),
      family: fc.constantFrom('Whitlock', 'Cole'),
      held: reason,
      works: fc.boolean(),
      relation: fc.constantFrom(null, 'customer' as const, 'prospect' as const),
      written: day,
    })
    .map(({ id, given, family, ...of }) => person(id, given, family, of))
  const anyOwner = fc.option(
    fc
      .record({
        name: fc.constantFrom('Estates', 'Ada Whitlock'),
        kind: fc.option(fc.constantFrom(...OWNER_KINDS)),
        place: anyPlace,
        person: fc.option(anyPerson),
        held: reason,
      })
      .map(({ name, ...of }) => owner(name, of)),
  )
  const all = fc
    .array(fc.record({ place: anyPlace, people: fc.array(anyPerson, { maxLength: 3 }), owner: anyOwner, takenOver: day }), {
      maxLength: 25,
    })
    .map((rows) => rows.map((row, i) => premises(i + 1, row)))
  const anyChoice = fc.record({
    to: fc.constantFrom(...RECIPIENTS),
    wording: fc.constantFrom(...WORDINGS),
    resident: fc.constant('Current resident'),
    without: fc.subarray([...OWNER_KINDS]),
    abroad: fc.boolean(),
    customers: fc.boolean(),
    restDays: fc.constant(30),
    onlyNew: fc.boolean(),
    first: fc.constantFrom(...NAMED_FIRST),
    most: fc.integer({ min: 1, max: 3 }),
    costHome: fc.constant(null),
    costAbroad: fc.constant(null),
  })

  test('each is held back once or in exactly one letter, and the account closes', () => {
    fc.assert(
      fc.property(all, anyChoice, (own, how) => {
        const { figures, held, letters } = lettersTo(own, how, '2026-05-20')
        const inLetters = letters.flatMap(({ premises: ids }) => ids)
        expect([...held.keys(), ...inLetters].sort((a, b) => a - b)).toEqual(own.map(({ id }) => id))
        let balance = figures.opening
        for (const { out, balance: after } of figures.rules) {
          balance -= out
          expect(after).toBe(balance)
        }
        expect(figures.clear).toBe(balance)
        expect(figures.clear).toBe(inLetters.length)
        expect(figures.letters).toBe(letters.length)
        // The same in any order in which the premises come.
        const back = lettersTo([...own].reverse(), how, '2026-05-20')
        expect(back.figures).toEqual(figures)
        expect(back.letters.map(({ premises: ids }) => [...ids].sort())).toEqual(letters.map(({ premises: ids }) => [...ids].sort()))
      }),
    )
  })

  test('nobody whose letters are suppressed is named, no letter goes to a suppressed address, and none twice', () => {
    fc.assert(
      fc.property(all, anyChoice, (own, how) => {
        const { letters } = lettersTo(own, how, null)
        const byId = new Map(own.map((one) => [one.id, one]))
        const seen = new Set<string>()
        for (const letter of letters) {
          for (const id of letter.premises) {
            const one = byId.get(id) as ScreenedPremises
            const at = how.to === 'owner' ? one.owner?.place : one.place
            expect(at?.held).toEqual({ address: null, household: null })
            expect(one.owner?.held ?? null).toBeNull()
            expect(at?.postal).toEqual(letter.postal)
            if (how.to === 'occupier')
              for (const who of one.people.filter(({ held }) => held !== null))
                expect(
                  letter.people.filter((id) => id === who.id && !one.people.some((other) => other.id === id && other.held === null)),
                ).toEqual([])
          }
          const key = `${letter.addressee}|${letter.country}|${letter.postal.street}`
          expect(seen.has(key)).toBe(false)
          seen.add(key)
        }
      }),
    )
  })
})

test('the names of a household in one line', () => {
  const [cora, dan] = [person(3, 'Cora', 'Dunn'), person(4, 'Dan', 'Whitlock')]
  expect(householdName([ada])).toBe('Ada Whitlock')
  expect(householdName([ada, cora])).toBe('Ada Whitlock and Cora Dunn')
  expect(householdName([ada, ben, dan])).toBe('Ada, Ben and Dan Whitlock')
  expect(householdName([ada, ben, dan, cora])).toBe('Ada, Ben, Dan Whitlock and others')
  expect(householdName([person(5, '', 'Whitlock', { name: 'Whitlock' }), ben])).toBe('Whitlock and Ben Whitlock')
})

test('a file of letters has the address by its parts and line by line, abroad with the country last', () => {
  const abroad = premises(1, {
    owner: owner('Claire Dupré', {
      place: place('12 rue des Lilas', { country: 'FR', postal: { street: '12 rue des Lilas', town: 'Nantes', postcode: '44000' } }),
    }),
  })
  const { letters } = lettersTo([abroad], choice({ to: 'owner' }), null)
  const [row] = lettersRows(letters, 'GB')
  expect(row).toHaveLength(LETTERS_HEADING.length)
  expect(row.slice(0, 8)).toEqual(['1', 'Claire Dupré', '12 rue des Lilas', 'Nantes', '44000', 'France', 'House 1', '1'])
  expect(row.slice(8)).toEqual(['Claire Dupré', '12 rue des Lilas', '44000 Nantes', 'FRANCE', '', '', ''])
})

test.each([
  ['nobody to go to', { to: 'neighbour' }, /whoever is there or to the owners/],
  ['no word for the resident', { resident: ' ' }, /what stands on the envelope/],
  ['days that are none', { restDays: 'soon' }, /are a number/],
  ['no days at all', { restDays: 0 }, /One day at least/],
  ['four premises in a letter', { most: 4 }, /names three at most/],
  ['a kind of owner that is none', { without: ['ghost'] }, /no such kind/],
])('a choice with %s is refused with what is wrong', (_, wrong, says) => {
  expect(() => letterChoice({ ...FIRST_CHOICE, ...wrong })).toThrow(says)
})

test('letters cost what they do at home and abroad', () => {
  const of = { letters: 10, abroad: 3 }
  expect(lettersCost(of, choice())).toBeNull()
  expect(lettersCost(of, choice({ costHome: 85, costAbroad: 240 }))).toBe(7 * 85 + 3 * 240)
  expect(lettersCost(of, choice({ costHome: 85 }))).toBe(10 * 85)
  expect(lettersCost(of, choice({ costAbroad: 240 }))).toBe(3 * 240)
  expect(() => letterChoice({ ...FIRST_CHOICE, costHome: -1 })).toThrow()
  expect(letterChoice({ ...FIRST_CHOICE, costHome: undefined }).costHome).toBeNull()
})

test('a choice is read back as it was', () => expect(letterChoice(JSON.parse(JSON.stringify(FIRST_CHOICE)))).toEqual(FIRST_CHOICE))
