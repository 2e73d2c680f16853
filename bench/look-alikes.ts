import { Random } from '@/core/checks/random'
import type { Typed } from './corrupt'

/** Pairs of two people who look like one, by what tells them apart; and records that are one although they look like two. */
export const LOOK_ALIKES = [
  'senior and junior',
  'one of them junior',
  'same initial in two flats',
  'same name in two flats',
  'given names a letter apart',
  'brothers on one phone',
  'namesakes with e-mails of their own',
  'namesakes with mobiles of their own',
] as const
export type LookAlike = (typeof LOOK_ALIKES)[number]
export const LOOK_DIFFERENT = [
  'family name put before',
  'second family name dropped',
  'cut in another place',
  'another script',
  'letters of one stroke',
  'given name put behind',
] as const
export type LookDifferent = (typeof LOOK_DIFFERENT)[number]

const LETTER_APART = [
  ['Jan', 'Jon'],
  ['Joan', 'Jean'],
  ['Dan', 'Don'],
  ['Marie', 'Maria'],
  ['Erin', 'Eric'],
  ['Carl', 'Carla'],
  ['Paul', 'Paula'],
  ['Mark', 'Marc'],
  ['Tina', 'Nina'],
  ['Lisa', 'Liza'],
  ['Dean', 'Sean'],
  ['Ronald', 'Donald'],
  ['Harry', 'Barry'],
  ['Karen', 'Karin'],
  ['Ellen', 'Helen'],
] as const
const FOREIGN = [
  ['Álvaro', 'Peña', 'Vidal'],
  ['María', 'Soler', 'Ibáñez'],
  ['João', 'Ferreira', 'Moura'],
  ['Inés', 'Rovira', 'Castell'],
  ['Duarte', 'Teles', 'Brandão'],
  ['Nuria', 'Campos', 'Lledó'],
] as const
const SCRIPTS = [
  ['Aleksandr', 'Ivanov', 'Александр', 'Иванов'],
  ['Mariya', 'Petrova', 'Мария', 'Петрова'],
  ['Nikos', 'Papas', 'Νίκος', 'Παπάς'],
  ['Dimitri', 'Volkov', 'Дмитрий', 'Волков'],
] as const
const STROKED = [
  ['Işıl', 'Yıldız', 'Isil', 'Yildiz'],
  ['Đorđe', 'Đurić', 'Dorde', 'Duric'],
  ['Þóra', 'Þórsdóttir', 'Thora', 'Thorsdottir'],
  ['Søren', 'Østergård', 'Soren', 'Ostergard'],
  ['Ħanna', 'Ħażan', 'Hanna', 'Hazan'],
] as const

/** A row and somebody known, for each kind so many, with families of their own so that they meet nobody else. */
export function lookAlikes(each: number, seed = 99): { row: Typed; known: Typed; kind: LookAlike | LookDifferent; one: boolean }[] {
  const random = new Random(seed)
  const made: { row: Typed; known: Typed; kind: LookAlike | LookDifferent; one: boolean }[] = []
  const consonants = 'bdfghklmnprstvw'
  const family = () =>
    `${random.pick([...consonants]).toUpperCase()}${random.pick([...'aeiou'])}${random.pick([...consonants])}${random.pick([...'aeiou'])}${random.pick([...consonants])}${random.pick(['er', 'ing', 'ley', 'ton', 'ford'])}`
  const postcode = () =>
    `PW${1 + random.below(40)} ${1 + random.below(9)}${String.fromCharCode(65 + random.below(20))}${String.fromCharCode(65 + random.below(20))}`
  const landline = () => `01134 96${String(random.below(10_000)).padStart(4, '0')}`
  const mobile = () => `07700 900${String(random.below(1000)).padStart(3, '0')}`
  const given = () => random.pick(['Thomas', 'Ruth', 'Peter', 'Grace', 'Walter', 'Edith', 'Simon', 'Clara', 'Hugo', 'Nora'])
  for (let i = 0; i < each; i++) {
    const base = (more: Partial<Typed> = {}): Typed => ({
      given: given(),
      family: family(),
      organisation: '',
      street: `${1 + random.below(180)} Alder Way`,
      town: 'Thornmouth',
      postcode: postcode(),
      email: '',
      phone: '',
      ...more,
    })
    const office = {
      organisation: `${family()} School`,
      street: '2 School Lane',
      town: 'Low Wendle',
      postcode: postcode(),
      phone: landline(),
    }
    const two = (kind: LookAlike, known: Typed, row: Partial<Typed>) => made.push({ kind, known, row: { ...known, ...row }, one: false })
    const one = (kind: LookDifferent, known: Typed, row: Partial<Typed>) => made.push({ kind, known, row: { ...known, ...row }, one: true })
    const father = base({ phone: landline() })
    two('senior and junior', { ...father, family: `${father.family} Sr` }, { family: `${father.family} Jr` })
    two('one of them junior', father, { family: `${father.family} ${random.pick(['Jr', 'junior', 'II'])}` })
    const flat = base({ street: `Flat ${1 + (i % 5)}, 12 Alder Way` })
    two(
      'same initial in two flats',
      { ...flat, given: `${flat.given[0]}.` },
      { given: flat.given, street: `Flat ${7 + (i % 5)}, 12 Alder Way` },
    )
    two('same name in two flats', flat, { street: `Flat ${7 + (i % 5)}, 12 Alder Way` })
    const [a, b] = random.pick(LETTER_APART)
    const colleague = base({ ...office, given: a })
    two(
      'given names a letter apart',
      { ...colleague, email: `${a}.${colleague.family}@office-${i}.example`.toLowerCase() },
      { given: b, email: `${b}.${colleague.family}@office-${i}.example`.toLowerCase() },
    )
    const brother = base({ phone: random.chance(0.5) ? landline() : mobile(), given: 'Daniel' })
    two('brothers on one phone', brother, { given: random.pick(['D.', 'David', 'Dan', 'Denis']).replace('Dan', 'Don') })
    const namesake = base(office)
    two(
      'namesakes with e-mails of their own',
      { ...namesake, email: `${namesake.given}.${namesake.family}@office-${i}.example`.toLowerCase() },
      { email: `${namesake.given}.${namesake.family}2@office-${i}.example`.toLowerCase() },
    )
    two('namesakes with mobiles of their own', { ...namesake, phone: mobile() }, { phone: mobile() })

    const [g, first, second] = random.pick(FOREIGN)
    const mail = `${family()}.${i}@post.example`.toLowerCase()
    one('family name put before', base({ given: 'Ruth', email: mail }), { family: `${family()} placeholder` })
    made[made.length - 1].row.family = `${family()} ${made[made.length - 1].known.family}`
    one('second family name dropped', base({ given: g, family: `${first} ${second}`, ...office, email: mail }), { family: first })
    one('cut in another place', base({ given: g, family: `${first} ${second}`, ...office, email: mail }), {
      given: `${g} ${first}`,
      family: second,
    })
    const [latinGiven, latinFamily, otherGiven, otherFamily] = random.pick(SCRIPTS)
    one('another script', base({ given: latinGiven, family: latinFamily, email: `script.${mail}` }), {
      given: otherGiven,
      family: otherFamily,
    })
    const [strokedGiven, strokedFamily, plainGiven, plainFamily] = random.pick(STROKED)
    one('letters of one stroke', base({ given: strokedGiven, family: strokedFamily, ...office }), {
      given: plainGiven,
      family: plainFamily,
    })
    const turned = base({ email: `turned.${mail}` })
    one('given name put behind', turned, { given: turned.family, family: turned.given })
  }
  return made
}
