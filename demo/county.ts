import { Random } from '@/core/checks/random'
import { FAMILY, GIVEN, KINDS, PLACE_A, PLACE_B, STREETS, TOWNS } from './words'
import { FICTION } from './fictional-numbers'

export interface Organisation {
  name: string
  industry: string
  kind: (typeof KINDS)[number]
  street: string
  town: string
  county: string
  postcode: string
  headCount: string
  domain: string
  switchboard: string
}

/** One row of a file of people, by the heading of each column. */
export interface PersonSeed {
  id: string
  given: string
  family: string
  role: string
  organisation: string
  industry: string
  headCount: string
  email: string
  phone: string
  mobile: string
  street: string
  town: string
  county: string
  postcode: string
  status: string
  tags: string
  /** Of a householder: the house that stands at the address first drawn. */
  house?: { street: string; town: string; county: string; postcode: string }
}

export const HEADER = [
  'Contact ID',
  'First name',
  'Last name',
  'Job title',
  'Organisation',
  'Organisation type',
  'Employees',
  'Email',
  'Phone',
  'Mobile',
  'Address',
  'Town',
  'County',
  'Postcode',
  'Status',
  'Tags',
] as const

export const cells = (p: PersonSeed): string[] => [
  p.id,
  p.given,
  p.family,
  p.role,
  p.organisation,
  p.industry,
  p.headCount,
  p.email,
  p.phone,
  p.mobile,
  p.street,
  p.town,
  p.county,
  p.postcode,
  p.status,
  p.tags,
]

export interface County {
  organisations: Organisation[]
  /** In the order of their ids: staff of organisations first, householders after them. */
  people: PersonSeed[]
}

const ORGANISATIONS = 2500
const STAFF = 15_300
const HOUSEHOLDERS = 2_700

/** The made-up Pellow County: about 18,000 people and 2,500 organisations, the same for the same seed. */
export function pellowCounty(seed = 20_26): County {
  const random = new Random(seed)
  const phones = fictionNumbers()
  const organisations = makeOrganisations(random, phones)
  const used = new Map<string, number>()
  const people: PersonSeed[] = []
  for (let i = 0; i < STAFF; i++)
    people.push(staff(random, i, organisations[i < ORGANISATIONS ? i : Math.floor(ORGANISATIONS * random.next() ** 1.4)], phones, used))
  for (let i = 0; i < HOUSEHOLDERS; i++) people.push(householder(random, STAFF + i, phones, used))
  settle(organisations, people)
  return { organisations, people }
}

/**
 * Puts some of the county into flats, two households into one house, and offices over several numbers. Nothing is drawn for it, so
 * that all else of the county stays as the seed has it.
 */
function settle(organisations: Organisation[], people: PersonSeed[]): void {
  const wide = new Map<string, { before: string; street: string }>()
  organisations.forEach((o, i) => {
    const [, house, road] = /^(\d+) (.+)$/.exec(o.street) ?? []
    if (i % 17 !== 5 || !house) return
    wide.set(o.name, { before: o.street, street: `${house}-${Number(house) + 2} ${road}` })
    o.street = `${house}-${Number(house) + 2} ${road}`
  })
  people.forEach((p, i) => {
    const office = wide.get(p.organisation)
    if (office && p.street === office.before) p.street = office.street
    if (p.organisation !== '') return
    const { street, town, county, postcode } = p
    p.house = { street, town, county, postcode }
    if (i % 19 === 7) p.street = `Flat ${1 + (i % 4)}, ${street}`
    // Two who share a house have one address, and not always one name.
    else if (i % 19 === 8 && people[i - 2].house) Object.assign(p, people[i - 2].house)
  })
}

function* fictionNumbers(): Generator<string> {
  for (let n = 0; n < 1000; n++) for (const [prefix, digits] of FICTION) yield `+${prefix}${String(n).padStart(digits, '0')}`
}

function makeOrganisations(random: Random, phones: Generator<string>): Organisation[] {
  const names = new Set<string>()
  const organisations: Organisation[] = []
  while (organisations.length < ORGANISATIONS) {
    const kind = random.weigh(KINDS.map((k) => [k, k.weight] as const))
    const place = `${random.pick(PLACE_A)}${random.pick(PLACE_B)}`
    const [town, district] = random.weigh(TOWNS.map((t) => [t, t[2]] as const))
    const plain = `${place} ${kind.suffix}`
    const name = names.has(plain) ? `${town} ${plain}` : plain
    if (names.has(name)) continue
    names.add(name)
    const slug = name.toLowerCase().replace(/[^a-z]+/g, '-')
    organisations.push({
      name,
      industry: kind.industry,
      kind,
      town,
      county: countyOf(town),
      headCount: headCount(random),
      postcode: postcode(random, district),
      street: `${1 + random.below(120)} ${random.pick(STREETS)}`,
      domain: `${slug}.example`,
      switchboard: national(phones.next().value as string),
    })
  }
  return organisations
}

/** The towns across the Marle belong to the next county. */
const countyOf = (town: string) => (['Upper Marle', 'Hollin Staithe', 'Ashby Tarn'].includes(town) ? 'Marle' : 'Pellow')

/** How many work at an organisation; some were never told. */
function headCount(random: Random): string {
  const most = random.weigh([
    [0, 12],
    [9, 28],
    [49, 34],
    [249, 20],
    [999, 5],
    [4000, 1],
  ])
  return most === 0 ? '' : String(1 + random.below(most))
}

function postcode(random: Random, district: string): string {
  const letters = 'ABDEFGHJLNPQRSTUWXYZ'
  return `${district} ${random.below(10)}${letters[random.below(letters.length)]}${letters[random.below(letters.length)]}`
}

const national = (e164: string) => `0${e164.slice(3, 7)} ${e164.slice(7)}`

function plainName(random: Random) {
  return { given: random.pick(GIVEN), family: random.pick(FAMILY) }
}

const ascii = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/ø/g, 'o')
    .replace(/Ł/g, 'L')
    .toLowerCase()
    .replace(/[^a-z]+/g, '')

function mailbox(given: string, family: string, domain: string, used: Map<string, number>): string {
  const base = `${ascii(given)}.${ascii(family)}`
  const n = (used.get(`${base}@${domain}`) ?? 0) + 1
  used.set(`${base}@${domain}`, n)
  return `${base}${n > 1 ? n : ''}@${domain}`
}

function staff(random: Random, i: number, org: Organisation, phones: Generator<string>, used: Map<string, number>): PersonSeed {
  const { given, family } = plainName(random)
  const role = random.chance(0.034) ? '' : random.weigh(org.kind.roles as readonly (readonly [string, number])[])
  const own = random.chance(0.36)
  return {
    id: `PC${String(10001 + i)}`,
    given,
    family,
    role,
    organisation: org.name,
    industry: org.industry,
    headCount: org.headCount,
    email: random.chance(0.78) ? mailbox(given, family, org.domain, used) : '',
    phone: own ? national(phones.next().value as string) : random.chance(0.62) ? org.switchboard : '',
    mobile: '',
    street: random.chance(0.9) ? org.street : '',
    town: random.chance(0.96) ? org.town : '',
    county: random.chance(0.9) ? org.county : '',
    postcode: random.chance(0.92) ? org.postcode : '',
    status: random.weigh([
      ['prospect', 70],
      ['customer', 5],
      ['former customer', 3],
      ['supplier', 1],
      ['', 21],
    ]),
    tags: random.chance(0.08) ? random.pick(['large roof', 'listed building', 'spoke at fair', 'newsletter']) : '',
  }
}

function householder(random: Random, i: number, phones: Generator<string>, used: Map<string, number>): PersonSeed {
  const { given, family } = plainName(random)
  const [town, district] = random.weigh(TOWNS.map((t) => [t, t[2]] as const))
  const phone = random.chance(0.42) ? phones.next().value : undefined
  return {
    id: `PC${String(10001 + i)}`,
    given,
    family,
    role: random.chance(0.3) ? 'Owner' : '',
    organisation: '',
    industry: '',
    headCount: '',
    email: random.chance(0.5) ? mailbox(given, family, random.pick(['example.org', 'example.com', 'example.net']), used) : '',
    phone: phone ? national(phone) : '',
    mobile: '',
    street: `${1 + random.below(160)} ${random.pick(STREETS)}`,
    town,
    county: countyOf(town),
    postcode: postcode(random, district),
    status: random.weigh([
      ['prospect', 40],
      ['customer', 9],
      ['', 51],
    ]),
    tags: random.chance(0.2) ? 'neighbour of a job' : '',
  }
}
