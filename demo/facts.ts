import { ACQUAINTANCE, DIRECT, type LEGAL_KINDS, type PARTS } from '@/core/clean/standard-fields'
import type { County } from './county'
import { Random } from '@/core/checks/random'

const CODES: Record<string, string> = {
  school: 'NAICS 611110',
  clinic: 'NAICS 621111',
  'care home': 'NAICS 623110',
  brewery: 'NAICS 312120',
  dairy: 'NAICS 311511',
  'plant nursery': 'NAICS 111421',
  'housing body': 'NAICS 531110',
  library: 'NAICS 519120',
  leisure: 'NAICS 713940',
  warehouse: 'NAICS 493110',
  workshop: 'NAICS 321918',
  shop: 'NAICS 445110',
  hall: 'NAICS 813410',
}
const LEGAL: Record<string, (typeof LEGAL_KINDS)[number]> = {
  school: 'public body',
  library: 'public body',
  hall: 'charity',
  'housing body': 'charity',
  'care home': 'company',
  clinic: 'partnership',
  workshop: 'sole trader',
  shop: 'sole trader',
}
const WORK = [
  'keeps the buildings and grounds',
  'plans repairs, gutters and drains',
  'buys for several sites',
  'runs the energy and water budget',
  'looks after a listed building',
  'manages contractors and compliance',
  'is renewing a flat roof',
]
const AIMS = [
  'with a large flat roof and its own gardens',
  'saving water in every department',
  'on a flood plain beside the Wendle',
  'in a row of old maltings',
  'with a green roof since last year',
  'washing and cooling with mains water',
]

export const ORGANISATION_HEADER = [
  'Contact ID',
  'First name',
  'Last name',
  'Organisation',
  'Town',
  'Website',
  'Organisation: description',
  'Organisation: industry code',
  'Organisation: kind',
  'Organisation: people counted',
  'Organisation: growth in a year, %',
  'Organisation: revenue',
  'Organisation: founded',
  'Organisation: seat or site',
]

/** What is told of organisations, by the first of their people: a row each. */
export function organisationRows({ organisations, people }: County): string[][] {
  const random = new Random(616)
  const maybe = (chance: number, value: () => string) => (random.chance(chance) ? value() : '')
  return organisations.map((o, i) => {
    const p = people[i]
    const heads = Number(o.headCount || 12)
    return [
      p.id,
      p.given,
      p.family,
      o.name,
      o.town,
      maybe(0.7, () => `https://www.${o.domain}`),
      maybe(0.6, () => `A ${o.industry} in ${o.town} ${random.pick(AIMS)}`),
      maybe(0.85, () => CODES[o.industry] ?? ''),
      maybe(0.8, () => LEGAL[o.industry] ?? random.pick(['company', 'co-operative', 'company'])),
      maybe(0.65, () => String(Math.max(1, Math.round(heads * (0.7 + random.next() * 0.6))))),
      maybe(0.5, () => String(Math.round((random.next() - 0.35) * 400) / 10)),
      maybe(0.45, () => String(Math.round(heads * (30 + random.next() * 90)) * 1000)),
      maybe(0.6, () => String(1840 + random.below(185))),
      maybe(0.7, () => (random.chance(0.75) ? 'seat' : 'site')),
    ]
  })
}

export const PEOPLE_HEADER = [
  'Contact ID',
  'First name',
  'Last name',
  'Profile',
  'Languages',
  'In the role since',
  'At the organisation since',
  'Earlier employers',
  'Part in a decision',
  'How well we know them',
  'Profile link or handle',
  'Direct messages',
  'Whose they are',
]

/** What is told of some people beyond the county's directory. */
export function peopleRows({ organisations, people }: County, today: number, holders: readonly string[]): string[][] {
  const random = new Random(818)
  const maybe = (chance: number, value: () => string) => (random.chance(chance) ? value() : '')
  const daysAgo = (days: number) => new Date(today - days * 86_400_000).toISOString().slice(0, 10)
  return people
    .filter((p, i) => p.organisation !== '' && i % 3 !== 1)
    .map((p, i) => {
      const inRole = Math.floor(random.next() ** 1.5 * 4000)
      const decides = /head|director|owner|manager|principal|bursar/i.test(p.role)
      return [
        p.id,
        p.given,
        p.family,
        maybe(0.5, () => `${p.role || 'Somebody'} who ${random.pick(WORK)} and ${random.pick(WORK)}`),
        maybe(0.4, () =>
          random.weigh([
            ['English', 8],
            ['English; Welsh', 2],
            ['English; Polish', 1],
            ['English; Urdu', 1],
          ]),
        ),
        maybe(0.6, () => daysAgo(inRole)),
        maybe(0.55, () => daysAgo(inRole + random.below(2000))),
        maybe(0.3, () => (random.chance(0.02) ? 'Brackenfold Rainworks' : random.pick(organisations).name)),
        maybe(0.4, () =>
          decides
            ? random.weigh([
                ['decides', 6],
                ['pays', 2],
                ['advises', 2],
                ['stands against', 1],
              ] as [(typeof PARTS)[number], number][])
            : random.weigh([
                ['uses', 5],
                ['advises', 2],
              ] as [(typeof PARTS)[number], number][]),
        ),
        maybe(0.45, () => random.pick(ACQUAINTANCE)),
        // Nothing is drawn for it: a third of them have a profile at the county's page for members.
        i % 3 === 0 ? `https://members.pellow.example/${p.id.toLowerCase()}` : '',
        maybe(0.3, () => random.pick(DIRECT)),
        maybe(0.25, () => random.pick(holders)),
      ]
    })
}
