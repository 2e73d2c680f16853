import { readFileSync } from 'node:fs'
import { expect, test } from 'vitest'
import { cleanEmail } from '@/core/clean/email'
import { cleanPhone } from '@/core/clean/phone'
import { pellowCounty } from '../../demo/county'
import { firstFile, secondFile } from '../../demo/files'

const county = pellowCounty()

test('the county is the same for the same seed, and of the size that is promised', () => {
  expect(pellowCounty()).toEqual(county)
  expect(county.people).toHaveLength(18_000)
  expect(county.organisations).toHaveLength(2500)
  expect(new Set(county.organisations.map((o) => o.name)).size).toBe(2500)
  expect(new Set(county.people.map((p) => p.id)).size).toBe(18_000)
})

test('the two intake files in demo/files are those the generator makes', () => {
  for (const file of [firstFile(county), secondFile(county)]) expect(readFileSync(new URL(`../../demo/files/${file.name}`, import.meta.url)).equals(file.bytes), file.name).toBe(true)
})

test('nobody in it can be reached: e-mails under reserved domains (RFC 2606), numbers kept for fiction', () => {
  for (const p of county.people) {
    if (p.email) expect(p.email).toMatch(/(\.example|@example\.(com|org|net))$/)
    if (p.email) expect(cleanEmail(p.email)?.usable).toBe(true)
    if (p.phone) expect(cleanPhone(p.phone, 'GB')?.usable, p.phone).toBe(true)
  }
})
