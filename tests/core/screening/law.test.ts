import { expect, test } from 'vitest'
import { countryCode } from '@/core/clean/country'
import { phoneCountry } from '@/core/clean/phone'
import { establishedUntil } from '@/core/screening/established'
import { PRESETS, withPreset } from '@/core/screening/presets'
import { firstPolicy, validRules } from '@/core/screening/rules'

test.each([
  // 16 CFR 310.2(q), as worked examples: 18 months after a purchase, 3 months after an inquiry.
  ['2025-01-15', null, { until: '2026-07-15', by: 'purchase', on: '2025-01-15' }],
  [null, '2026-01-15', { until: '2026-04-15', by: 'inquiry', on: '2026-01-15' }],
  ['2025-01-15', '2026-06-01', { until: '2026-09-01', by: 'inquiry', on: '2026-06-01' }],
  // A month without that day ends on its last.
  ['2024-08-31', null, { until: '2026-02-28', by: 'purchase', on: '2024-08-31' }],
  [null, null, null],
  ['some day', null, null],
])('bought on %s, asked on %s: established until then', (purchase, inquiry, until) =>
  expect(establishedUntil(purchase, inquiry)).toEqual(until),
)

test.each([
  ['United Kingdom', 'GB'],
  ['UK', 'GB'],
  ['uk', 'GB'],
  ['Wales', 'GB'],
  ['germany', 'DE'],
  ['US', 'US'],
  ['U.S.A.', 'US'],
  ['Ireland', 'IE'],
  ['EU', null],
  ['ZZ', null],
  ['DD', null],
  ['Pellow', null],
  ['', null],
  [null, null],
])('the country %s is %s', (text, code) => expect(countryCode(text)).toBe(code))

test.each([
  ['+12125550123', 'US'],
  ['+14165550123', 'CA'],
  ['+4930209790', 'DE'],
  // Ofcom keeps these for drama, so that they are valid nowhere.
  ['+441134960123', 'GB'],
  ['+441534456789', 'JE'],
  ['0113', null],
])('%s is a number of %s', (number, country) => expect(phoneCountry(number)).toBe(country))

test('each preset makes a whole policy, says where each figure is from, and can be added once only', () => {
  for (const preset of PRESETS) {
    const added = withPreset(firstPolicy(), preset)
    expect(validRules(added)).toHaveLength(firstPolicy().length + preset.rules.length)
    for (const rule of preset.rules) {
      expect(rule.source).toMatch(/checked|from memory/)
      expect(rule.countries).toEqual(preset.countries)
    }
    expect(withPreset(added, preset)).toEqual(added)
  }
})

test('the union has 27 members, each known', () => {
  const eu = PRESETS.find(({ id }) => id === 'EU')
  expect(new Set(eu?.countries).size).toBe(27)
  for (const code of eu?.countries ?? []) expect(countryCode(code)).toBe(code)
})
