import { readFileSync } from 'node:fs'
import { expect, test } from 'vitest'
import { cleanEmail } from '@/core/clean/email'
import { cleanPhone } from '@/core/clean/phone'
import { comparablePostal } from '@/core/clean/postal'
import { streetLine } from '@/core/clean/street'
import { pellowCounty } from '../../demo/county'
import { firstFile, secondFile } from '../../demo/files'
import { premisesRows } from '../../demo/places'

const county = pellowCounty()

test('the county is the same for the same seed, and of the size that is promised', () => {
  expect(pellowCounty()).toEqual(county)
  expect(county.people).toHaveLength(18_000)
  expect(county.organisations).toHaveLength(2500)
  expect(new Set(county.organisations.map((o) => o.name)).size).toBe(2500)
  expect(new Set(county.people.map((p) => p.id)).size).toBe(18_000)
})

test('the two intake files in demo/files are those the generator makes', () => {
  for (const file of [firstFile(county), secondFile(county)])
    expect(readFileSync(new URL(`../../demo/files/${file.name}`, import.meta.url)).equals(file.bytes), file.name).toBe(true)
})

test('nobody in it can be reached: emails under reserved domains (RFC 2606), numbers kept for fiction', () => {
  for (const p of county.people) {
    if (p.email) expect(p.email).toMatch(/(\.example|@example\.(com|org|net))$/)
    if (p.email) expect(cleanEmail(p.email)?.usable).toBe(true)
    if (p.phone) expect(cleanPhone(p.phone, 'GB')?.usable, p.phone).toBe(true)
  }
})

test('it has flats, offices over several numbers, and houses that two share, each read as such', () => {
  const residents = county.people.filter((p) => p.organisation === '')
  const flats = residents.filter((p) => p.street.startsWith('Flat '))
  const ranges = county.organisations.filter((o) => /^\d+-\d+ /.test(o.street))
  const houses = new Map<string, typeof residents>()
  for (const p of residents) houses.set(`${p.street}|${p.postcode}`, [...(houses.get(`${p.street}|${p.postcode}`) ?? []), p])
  const shared = [...houses.values()].filter((people) => people.length > 1)
  expect(flats.length).toBeGreaterThan(100)
  expect(ranges.length).toBeGreaterThan(100)
  expect(shared.length).toBeGreaterThan(100)
  expect(shared.some((people) => people[0].family !== people[1].family)).toBe(true)
  for (const { street, town, postcode } of flats) {
    expect(streetLine(street)).toMatchObject({ unit: expect.stringMatching(/^flat \d$/) })
    // A flat is not the house.
    expect(comparablePostal({ street, town, postcode })).not.toBe(
      comparablePostal({ street: street.replace(/^Flat \d+, /, ''), town, postcode }),
    )
  }
  for (const { street } of ranges)
    expect(streetLine(street)).toMatchObject({ unit: null, house: expect.any(Number), number: expect.stringMatching(/^\d+-\d+$/) })
  // The house itself stands among the premises.
  const lines = new Set(premisesRows(county, Date.UTC(2026, 5, 1)).map((row) => row[3]))
  expect(flats.filter((p) => lines.has(p.street.replace(/^Flat \d+, /, ''))).length).toBeGreaterThan(flats.length * 0.9)
})
