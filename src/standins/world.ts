import { pellowCounty } from '../../demo/county'
import { Random } from '@/core/checks/random'
import { FAMILY, GIVEN, PLACE_A, PLACE_B, STREETS, TOWNS } from '../../demo/words'
import { FICTION } from '../../demo/fictional-numbers'

/** A business as the directory has it. All of it is made up; addresses are under reserved domains, numbers kept for fiction. */
export interface Business {
  key: string
  name: string
  kind: string
  subKind: string
  town: string
  street: string
  postcode: string
  contact: string
  role: string
  email: string
  phone: string
  staff: string
}

/** Premises as the register has them. */
export interface Premises {
  key: string
  name: string
  kind: string
  subKind: string
  town: string
  street: string
  postcode: string
  owner: string
  ownerKind: 'individual' | 'company'
  roof: number
  built: number
  phone: string
  lat: number
  lon: number
}

/** Somebody whom the checker knows to be behind an address. */
export interface Known {
  email: string
  profile: string
  name: string
  role: string
  organisation: string
  phone: string
  street: string
  town: string
  postcode: string
}

/** Sub-kinds of the kinds of business. */
const SUB_KINDS: Record<string, readonly string[]> = {
  school: ['infant school', 'junior school', 'all-through school'],
  clinic: ['general clinic', 'dental clinic', 'physiotherapy'],
  'care home': ['nursing home', 'sheltered housing'],
  brewery: ['ale brewery', 'cider house'],
  dairy: ['creamery', 'milk processing'],
  'plant nursery': ['tree nursery', 'garden centre', 'bedding plants'],
  'housing body': ['housing association', 'almshouse charity'],
  library: ['branch library', 'archive'],
  leisure: ['swimming pool', 'sports hall'],
  warehouse: ['cold store', 'distribution shed', 'self storage'],
  workshop: ['joinery', 'furniture maker'],
  shop: ['farm shop', 'delicatessen'],
  hall: ['village hall', 'scout hut'],
}
const MORE: readonly (readonly [suffix: string, kind: string])[] = [
  ['Infants', 'school'],
  ['Dental Clinic', 'clinic'],
  ['Tree Nursery', 'plant nursery'],
  ['Garden Centre', 'plant nursery'],
  ['Cold Store', 'warehouse'],
  ['Self Storage', 'warehouse'],
  ['Cider House', 'brewery'],
  ['Creamery', 'dairy'],
  ['Swimming Pool', 'leisure'],
  ['Almshouses', 'housing body'],
  ['Furniture', 'workshop'],
  ['Nursing Home', 'care home'],
  ['Village Hall', 'hall'],
  ['Delicatessen', 'shop'],
]
const ROLES = [
  'Site Manager',
  'Estates Manager',
  'Facilities Manager',
  'Owner',
  'Practice Manager',
  'Head Gardener',
  'Operations Director',
  'Caretaker',
] as const

/** Somewhere around a town: the made-up county lies where there is nothing but the North Sea, its towns a dozen kilometres from each other. */
function around(town: number, random: Random): { lat: number; lon: number } {
  return { lat: 55.2 + Math.floor(town / 4) * 0.12 + random.next() * 0.03, lon: 1.2 + (town % 4) * 0.2 + random.next() * 0.05 }
}

/** What the outside knows: half of it is the county’s, so that much of what is found is known already; the rest is new. */
export function world(seed = 77): { businesses: Business[]; premises: Premises[]; known: Known[] } {
  const random = new Random(seed)
  const { organisations, people } = pellowCounty()
  const name = () => `${random.pick(GIVEN)} ${random.pick(FAMILY)}`
  const ascii = (text: string) =>
    text
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z]+/g, '-')
      .replace(/^-|-$/g, '')
  const subKind = (kind: string) => random.pick(SUB_KINDS[kind] ?? ['other'])
  const number = () => {
    const [prefix, digits] = random.pick(FICTION)
    return `0${prefix.slice(2)}${String(random.below(10 ** digits)).padStart(digits, '0')}`
  }
  const code = (district: string) =>
    `${district} ${random.below(10)}${String.fromCharCode(65 + random.below(8))}${String.fromCharCode(65 + random.below(8))}`
  const businesses: Business[] = []
  organisations.forEach((org, i) => {
    if (i % 2 === 1) return
    const staff = people[i]
    businesses.push({
      key: `B${i}`,
      name: org.name,
      kind: org.industry,
      subKind: subKind(org.industry),
      town: org.town,
      street: org.street,
      postcode: org.postcode,
      contact: `${staff.given} ${staff.family}`,
      role: staff.role,
      email: staff.email,
      phone: staff.phone,
      staff: org.headCount,
    })
  })
  for (let i = 0; i < 1600; i++) {
    const [suffix, kind] = random.pick(MORE)
    const [town, district] = random.weigh(TOWNS.map((t) => [t, t[2]] as const))
    const own = `${random.pick(PLACE_A)}${random.pick(PLACE_B)} ${suffix}`
    const contact = random.chance(0.85) ? name() : ''
    const domain = `${ascii(own)}-${ascii(town)}.example`
    businesses.push({
      key: `N${i}`,
      name: own,
      kind,
      subKind: subKind(kind),
      town,
      street: `${1 + random.below(140)} ${random.pick(STREETS)}`,
      postcode: code(district),
      contact,
      role: contact ? random.pick(ROLES) : '',
      email: random.chance(0.55) ? (contact && random.chance(0.6) ? `${ascii(contact)}@${domain}` : `office@${domain}`) : '',
      phone: random.chance(0.7) ? number() : '',
      staff: random.chance(0.6) ? String(1 + random.below(240)) : '',
    })
  }
  businesses.sort((a, b) => a.name.localeCompare(b.name) || a.key.localeCompare(b.key))
  const premises: Premises[] = Array.from({ length: 1400 }, (_, i) => {
    const [town, district] = random.weigh(TOWNS.map((t) => [t, t[2]] as const))
    const kind = random.pick(['barn', 'shed', 'hall', 'works', 'house'])
    const company = random.chance(0.4)
    const place = `${random.pick(PLACE_A)}${random.pick(PLACE_B)}`
    return {
      key: `P${i}`,
      name: `${place} ${kind === 'house' ? 'House' : kind === 'works' ? 'Works' : kind === 'barn' ? 'Barn' : kind === 'hall' ? 'Hall' : 'Shed'}`,
      kind,
      subKind: random.pick(['pitched roof', 'flat roof', 'green roof']),
      town,
      street: `${1 + random.below(180)} ${random.pick(STREETS)}`,
      postcode: code(district),
      owner: company ? `${place} Estates Ltd` : name(),
      ownerKind: company ? 'company' : 'individual',
      roof: 40 + random.below(2400),
      built: 1860 + random.below(165),
      phone: random.chance(0.3) ? number() : '',
      ...around(
        TOWNS.findIndex(([name]) => name === town),
        random,
      ),
    }
  })
  // Of every five people of the county the checker knows three; some by a profile of theirs.
  const known = people
    .filter((p, i) => p.email !== '' && i % 5 < 3)
    .map((p, i) => ({
      email: p.email,
      profile: `https://profiles.example/${ascii(`${p.given} ${p.family}`)}-${p.id.toLowerCase()}`,
      name: `${p.given} ${p.family}`,
      role: p.role || ROLES[i % ROLES.length],
      organisation: p.organisation,
      phone: p.phone || number(),
      street: p.street || '',
      town: p.town,
      postcode: p.postcode,
    }))
  return { businesses, premises, known }
}
