import { stringify } from 'csv-stringify/sync'
import { type County, cells, HEADER, type PersonSeed } from './county'
import { Random } from '@/core/checks/random'
import { FAMILY, GIVEN, TOWNS } from './words'

/** Two intake files a month apart, with the usual dirt, over people of the county and newcomers. */
export interface IntakeFile {
  name: string
  bytes: Buffer
}

const COLUMN = (title: (typeof HEADER)[number]) => HEADER.indexOf(title)

export const toCsv = (rows: string[][], delimiter = ','): string => stringify([[...HEADER], ...rows], { delimiter })

/** The first file: UTF-8 with a byte-order mark, commas. */
export function firstFile(county: County): IntakeFile {
  const random = new Random(71)
  const rows = [...newcomers(random, 60000, 260, county), ...known(random, county, 90), ...dirt()]
  return { name: 'pellow-prospects-first-month.csv', bytes: Buffer.from(`\uFEFF${toCsv(rows)}`, 'utf8') }
}

/** The file a month later: Windows-1252, semicolons. Most of the first again, some of them changed, and new ones. */
export function secondFile(county: County): IntakeFile {
  const random = new Random(72)
  const before = newcomers(new Random(71), 60000, 260, county)
  const again = before.slice(0, 180).map((row) => {
    const next = [...row]
    if (random.chance(0.14)) next[3] = random.pick(['Estates Manager', 'Head of Facilities', 'Retired', 'Caretaker', 'Director of Estates'])
    if (random.chance(0.08)) next[COLUMN('Town')] = random.pick(TOWNS)[0]
    if (random.chance(0.06)) next[COLUMN('Email')] = `new.${next[COLUMN('Email')] || `${next[0].toLowerCase()}@example.org`}`
    return next
  })
  const movers = county.people
    .filter((p, i) => i % 131 === 7 && p.role !== '')
    .slice(0, 70)
    .map((p) => cells({ ...p, role: random.pick(['Facilities Manager', 'Head of Estates', 'Finance Officer', 'Trainee Estates Officer']) }))
  const rows = [...again, ...movers, ...newcomers(random, 61000, 120, county), ...dirt().slice(2)]
  return { name: 'pellow-prospects-second-month.csv', bytes: Buffer.from(latin(toCsv(rows, ';')), 'latin1') }
}

/** Letters that Windows-1252 lacks are written without their marks, as the programs that save such files do. */
const latin = (text: string) =>
  text.replace(
    /[\u0100-\uffff]/g,
    (c) =>
      ({ '’': "'", Ł: 'L', ł: 'l', ő: 'o', '\uFEFF': '' })[c] ??
      c
        .normalize('NFKD')
        .replace(/\p{M}/gu, '')
        .replace(/[\u0100-\uffff]/g, '?'),
  )

function newcomers(random: Random, firstId: number, count: number, county: County): string[][] {
  return Array.from({ length: count }, (_, i) => {
    const org = county.organisations[random.below(county.organisations.length)]
    const [given, family] = [random.pick(GIVEN), random.pick(FAMILY)]
    const shout = random.chance(0.05)
    const seed: PersonSeed = {
      id: `PC${firstId + i}`,
      given: shout ? given.toUpperCase() : random.chance(0.03) ? ` ${given.toLowerCase()} ` : given,
      family: shout ? family.toUpperCase() : family,
      role: random.chance(0.06)
        ? ''
        : random.pick([
            'Estates Manager',
            'Facilities Manager',
            'Head of Estates',
            'Site Manager',
            'Bursar',
            'Practice Manager',
            'Premises Officer',
            'Deputy Facilities Manager',
          ]),
      organisation: random.chance(0.1) ? `${org.name.toUpperCase()}` : org.name,
      industry: org.industry,
      headCount: org.headCount,
      email: random.weigh([
        [`${firstId + i}.desk@${org.domain}`, 70],
        ['', 20],
        [`mailto:${firstId + i}.desk@${org.domain}`, 4],
        [`${firstId + i}.desk(at)${org.domain}`, 4],
        [`Desk <${firstId + i}.desk@${org.domain}>`, 2],
      ]),
      phone: random.chance(0.6) ? org.switchboard : random.chance(0.1) ? '0113 49' : '',
      mobile: '',
      street: org.street.replace('Street', random.chance(0.2) ? 'St' : 'Street'),
      town: random.chance(0.1) ? org.town.toUpperCase() : org.town,
      county: org.county,
      postcode: random.chance(0.15) ? org.postcode.replace(' ', '').toLowerCase() : org.postcode,
      status: random.pick(['prospect', 'Lead', '', 'prospect']),
      tags: random.chance(0.2) ? 'large roof; spring mailing' : '',
    }
    return cells(seed)
  })
}

/** People the county has already: with their id, without it, and by another name on the same switchboard. */
function known(random: Random, county: County, count: number): string[][] {
  return Array.from({ length: count }, (_, i) => {
    const p = county.people[100 + i * 37]
    if (i % 3 === 0) return cells(p)
    if (i % 3 === 1) return cells({ ...p, id: '', email: p.email.toUpperCase(), phone: p.phone.replace(/^0/, '+44 (0)') })
    return cells({ ...p, id: '', given: `${p.given[0]}.`, mobile: '', tags: random.chance(0.5) ? 'newsletter' : '' })
  })
}

function dirt(): string[][] {
  const row = (given: string, family: string, rest: Partial<Record<(typeof HEADER)[number], string>> = {}) =>
    HEADER.map((title, i) => (i === 1 ? given : i === 2 ? family : (rest[title] ?? '')))
  return [
    row('', '', { Organisation: 'Hallowcroft Clinic', Email: 'reception@hallowcroft-clinic.example' }),
    row('', '', {}),
    row('Basil', 'Penfield', { Status: 'VIP', Email: 'basil.penfield@example.org' }),
    row('=1+1', 'Formula', { Email: 'formula@example.org' }),
    row('Cora', 'Marlham', { Email: 'cora,marlham@example.org', Town: 'Thornmouth' }),
    row('Kit', 'Yarwell', { 'Organisation type': 'x'.repeat(5000) }),
    row('', '', { Address: 'somewhere' }),
  ]
}
