import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { inLatin } from '@/core/clean/fold'
import { generationOf, nameKey } from '@/core/clean/name'
import { comparableStreet } from '@/core/clean/postal'
import { fold } from '@/core/clean/fold'
import { against, type Own } from '@/core/match/against'
import { worseSpelling } from '@/core/match/better-name'
import { COMPARED, compare } from '@/core/match/compare'
import { weightsOf } from '@/core/match/estimate'
import { isGivenName } from '@/core/match/given-names'
import { KnownRecords } from '@/core/match/known-records'
import { USUAL_WEIGHTS } from '@/core/match/usual-weights'
import { type KnownOne, whoIs } from '@/core/match/who-is'
import { lookAlikes } from '../../../bench/look-alikes'

interface Somebody {
  name: [given: string, family: string]
  organisation?: string
  street?: string
  postcode?: string
  email?: string
  phone?: string
  id?: string
}

const own = ({ name: [given, family], organisation = '', street = '', postcode = '', email, phone }: Somebody): Own => {
  const emails = email ? [email] : []
  const phones = phone ? [phone] : []
  return {
    given: fold(given),
    ...generationOf(fold(family)),
    organisation,
    street: comparableStreet(street),
    postcode: fold(postcode),
    town: '',
    emails,
    phones,
    ownEmails: emails,
    mobiles: phones.filter((p) => p.startsWith('07')),
  }
}
const keys = (of: Somebody, id = -1): KnownOne => {
  const o = own(of)
  return {
    id,
    outsideId: of.id ?? null,
    emails: [...o.emails],
    phones: [...o.phones],
    name: nameKey(...of.name),
    family: fold(of.name[1]),
    organisation: o.organisation || null,
    address: o.street && o.postcode ? `${o.street}|${o.postcode}` : null,
    own: o,
  }
}
/** What a row is taken for where one person is known, as an intake decides it. */
const taken = (row: Somebody, known: Somebody) => {
  const records = new KnownRecords(weightsOf(USUAL_WEIGHTS))
  const one = keys(known, 1)
  records.add(1, one.own)
  const shares =
    [...one.emails].some((e) => keys(row).emails.includes(e)) ||
    [...one.phones].some((p) => keys(row).phones.includes(p)) ||
    one.name === keys(row).name ||
    (one.outsideId !== null && one.outsideId === row.id)
  return whoIs(
    keys(row),
    shares ? [one] : [],
    { like: () => records.find(own(row)).map(() => one), of: (a, b) => records.likeness(a, b) },
    isGivenName,
  )
}

const HOME = { street: '4 Mill Lane', postcode: 'PW1 2AB' }
const OFFICE = { organisation: 'hallow clinic' }

describe('what is a person’s own speaks against their being one', () => {
  test.each<[string, Somebody, Somebody, RegExp]>([
    [
      'senior and junior at one address',
      { name: ['John', 'Marlow Jr'], ...HOME },
      { name: ['John', 'Marlow Sr'], ...HOME },
      /one is jr, the other sr/,
    ],
    [
      'one of them junior',
      { name: ['John', 'Marlow Jr'], ...HOME, phone: '0113' },
      { name: ['John', 'Marlow'], ...HOME, phone: '0113' },
      /one is called jr, the other not/,
    ],
    [
      'two names a letter apart',
      { name: ['Jan', 'Marlow'], ...OFFICE, ...HOME, phone: '0113' },
      { name: ['Jon', 'Marlow'], ...OFFICE, ...HOME, phone: '0113' },
      /jan and jon are two names/,
    ],
    [
      'namesakes with emails of their own',
      { name: ['Ann', 'Marlow'], ...OFFICE, email: 'ann.marlow2@hallow.example' },
      { name: ['Ann', 'Marlow'], ...OFFICE, email: 'ann.marlow@hallow.example' },
      /each has another email of their own/,
    ],
    [
      'namesakes with mobiles of their own',
      { name: ['Ann', 'Marlow'], ...OFFICE, phone: '07700 900111' },
      { name: ['Ann', 'Marlow'], ...OFFICE, phone: '07700 900222' },
      /each has another mobile of their own/,
    ],
    [
      'brothers on one phone',
      { name: ['D', 'Marlow'], ...HOME, phone: '0113' },
      { name: ['Daniel', 'Marlow'], ...HOME, phone: '0113' },
      /name cannot tell/,
    ],
  ])('%s: in doubt', (_, row, known, why) => expect(taken(row, known)).toMatchObject({ is: 'in doubt', why: expect.stringMatching(why) }))

  test('two flats of one house are two homes, by name and by initial', () => {
    for (const given of ['John', 'J'])
      expect(
        taken(
          { name: [given, 'Marlow'], ...HOME, street: 'Flat 2, 4 Mill Lane' },
          { name: ['John', 'Marlow'], ...HOME, street: '4 Mill Lane, Flat 3' },
        ).is,
      ).not.toBe('same')
  })
  test('where something of their own agrees it is the same; an outside id decides alone', () => {
    expect(
      taken(
        { name: ['Ann', 'Marlow'], ...OFFICE, email: 'ann@one.example', phone: '07700 900111' },
        { name: ['Ann', 'Marlow'], ...OFFICE, email: 'ann@two.example', phone: '07700 900111' },
      ),
    ).toMatchObject({ is: 'same' })
    expect(taken({ name: ['Jan', 'Marlow Jr'], id: 'A' }, { name: ['Jon', 'Marlow Sr'], id: 'A' })).toEqual({
      is: 'same',
      id: 1,
      by: 'outside id',
    })
    expect(
      taken({ name: ['Ann', 'Marlow'], ...OFFICE, email: 'info@hallow.example' }, { name: ['Ann', 'Marlow'], ...OFFICE }),
    ).toMatchObject({ is: 'same' })
  })
  test('a father’s and a son’s one email makes them no one person', () =>
    expect(
      taken({ name: ['John', 'Marlow Jr'], email: 'marlow@post.example' }, { name: ['John', 'Marlow Sr'], email: 'marlow@post.example' })
        .is,
    ).not.toBe('same'))

  test('nothing speaks against oneself, and what speaks against speaks both ways', () => {
    const word = fc.constantFrom('jan', 'jon', 'ann', 'j', 'marlow', 'smith')
    const somebody = fc.record({
      name: fc.tuple(word, fc.constantFrom('marlow', 'marlow jr', 'marlow sr')),
      street: fc.constantFrom('', 'Flat 2, 4 Mill Lane', 'Flat 3, 4 Mill Lane'),
      email: fc.constantFrom('a@x.example', 'b@y.example', ''),
      phone: fc.constantFrom('07700 900111', '07700 900222', ''),
    })
    fc.assert(
      fc.property(somebody, somebody, (a, b) => {
        const [one, other] = [own(a as Somebody), own(b as Somebody)]
        expect(against(one, one, isGivenName)).toBeNull()
        expect(against(one, other, isGivenName) === null).toBe(against(other, one, isGivenName) === null)
      }),
    )
  })
})

describe('the same, written in another way', () => {
  const levels = (a: [string, string], b: [string, string]) => {
    const [family, given] = compare(own({ name: a }), own({ name: b }))
    return { [COMPARED[0]]: family, [COMPARED[1]]: given }
  }
  test.each<[string, [string, string], [string, string], number, number]>([
    ['cut in another place', ['Álvaro Peña', 'Vidal'], ['Álvaro', 'Peña Vidal'], 2, 4],
    ['a second family name dropped', ['Álvaro', 'Peña'], ['Álvaro', 'Peña Vidal'], 1, 4],
    ['one put before', ['Ruth', 'Ash-Marlow'], ['Ruth', 'Marlow'], 1, 4],
    ['the given name dropped', ['Peña', 'Vidal'], ['Álvaro', 'Peña Vidal'], 1, -1],
    ['another script', ['Мария', 'Иванова'], ['Mariia', 'Ivanova'], 2, 2],
    ['letters of one stroke', ['Işıl', 'Yıldız'], ['Isil', 'Yildiz'], 2, 4],
    ['an initial and a family name are no part of a longer one', ['J', 'Marlow'], ['John', 'Marlow'], 2, 1],
  ])('%s', (_, a, b, family, given) => expect(levels(a, b)).toEqual({ family, given }))

  test('two names in one other script are not held against each other in Latin letters', () => {
    expect(inLatin('李明')).toBe(inLatin('黎明'))
    expect(levels(['明', '李'], ['明', '黎'])).toEqual({ family: 0, given: 4 })
  })
  test.each([
    ['ı', 'i'],
    ['đ', 'd'],
    ['þ', 'th'],
    ['ħ', 'h'],
    ['ø', 'o'],
    ['ł', 'l'],
    ['æ', 'ae'],
    ['ß', 'ss'],
    ['İ', 'i'],
    ['É', 'e'],
  ])('%s folds to %s', (letter, folded) => expect(fold(letter)).toBe(folded))
  test('letters of other scripts stay', () => expect(fold('Мария 李')).toBe('мария 李'))
})

test('of people made to look alike none is taken for the other, and most of those made to look different are found', () => {
  const pairs = lookAlikes(12, 7)
  const outcome = (pair: (typeof pairs)[number]) => {
    const of = (r: (typeof pair)['row']): Somebody => ({
      name: [r.given, r.family],
      organisation: fold(r.organisation),
      street: r.street,
      postcode: r.postcode,
      email: r.email || undefined,
      phone: r.phone || undefined,
    })
    return taken(of(pair.row), of(pair.known)).is
  }
  for (const pair of pairs) if (!pair.one) expect(outcome(pair), `${pair.kind} ${JSON.stringify(pair.row)}`).not.toBe('same')
  for (const pair of pairs) if (pair.one) expect(outcome(pair), `${pair.kind} ${JSON.stringify(pair.row)}`).not.toBe('new')
})

describe('newer is not better', () => {
  const worse = (next: [string, string], known: [string, string]) =>
    worseSpelling({ given: next[0], family: next[1] }, { given: known[0], family: known[1] }, isGivenName)
  test.each<[[string, string], [string, string], RegExp]>([
    [['Maud', 'Ell3ry'], ['Maud', 'Ellery'], /digit/],
    [['Ellery', 'Maud'], ['Maud', 'Ellery'], /changed places/],
    [['Muad', 'Ellery'], ['Maud', 'Ellery'], /slip/],
    [['Maud', 'Elery'], ['Maud', 'Ellery'], /slip/],
    [['Liz', 'Harowgate'], ['Elizabeth', 'Harrowgate'], /short form/],
    [['Álvaro', 'Peña'], ['Álvaro', 'Peña Vidal'], /left out/],
  ])('%s does not take the place of %s', (next, known, why) => expect(worse(next, known)).toMatch(why))
  test.each<[[string, string], [string, string]]>([
    [
      ['Maud', 'Ellery'],
      ['Maud', 'Ell3ry'],
    ],
    [
      ['Maud', 'Ellery'],
      ['Muad', 'Ellery'],
    ],
    [
      ['Maud', 'Tovey'],
      ['Maud', 'Ellery'],
    ],
    [
      ['Elizabeth', 'Harrowgate'],
      ['Liz', 'Harrowgate'],
    ],
    [
      ['Álvaro', 'Peña Vidal'],
      ['Álvaro', 'Peña'],
    ],
    [
      ['Maud', 'Ellery'],
      ['Maud', 'Ellery'],
    ],
  ])('%s may take the place of %s', (next, known) => expect(worse(next, known)).toBeNull())
})
