import { afterEach, expect, test, vi } from 'vitest'
import { dateText, moneyText } from '@/core/text/written'

const RIGHT = { APP_DATABASE_URL: 'postgresql://arch_app:x@127.0.0.1/arch', ARCH_SECRET: 's'.repeat(32) }

/** The settings as a process with just this environment reads them. */
async function settingsOf(environment: Record<string, string>) {
  vi.resetModules()
  for (const name of Object.keys(process.env)) if (/^(ARCH_|APP_|PORT|ENGINE_|SOURCES_)/.test(name)) vi.stubEnv(name, undefined)
  for (const [name, value] of Object.entries(environment)) vi.stubEnv(name, value)
  return await import('@/runtime/settings')
}
afterEach(() => {
  vi.unstubAllEnvs()
  vi.resetModules()
})

test('what is not said is as a British team has it', async () => {
  const { settings, writing } = await settingsOf(RIGHT)
  expect(settings()).toMatchObject({
    ARCH_ZONE: 'Europe/London',
    ARCH_REGION: 'GB',
    ARCH_LOCALE: 'en-GB',
    ARCH_CURRENCY: 'GBP',
    PORT: 3000,
  })
  expect(writing()).toEqual({ locale: 'en-GB', currency: 'GBP', zone: 'Europe/London' })
})

test('how a team writes is set once for the process', async () => {
  const { settings } = await settingsOf({ ...RIGHT, ARCH_LOCALE: 'de-DE', ARCH_CURRENCY: 'EUR', ARCH_ZONE: 'Europe/Berlin' })
  settings()
  const written = await import('@/core/text/written')
  expect(written.dateText('2026-11-21')).toBe('21. Nov. 2026')
  expect(written.moneyText(1240)).toMatch(/^1\.240\s€$/)
  // Other processes are not touched by it.
  expect([dateText('2026-11-21'), moneyText(1240)]).toEqual(['21 Nov 2026', '£1,240'])
})

test.each([
  [{ ARCH_LOCALE: 'klingon or so' }, /ARCH_LOCALE: not a language and country/],
  [{ ARCH_LOCALE: 'xx-XX' }, /ARCH_LOCALE/],
  [{ ARCH_CURRENCY: 'pounds' }, /ARCH_CURRENCY: three capital letters/],
  [{ ARCH_ZONE: 'Pellow/Thornmouth' }, /ARCH_ZONE: not a time zone/],
  [{ ARCH_REGION: 'gb' }, /ARCH_REGION: two capital letters/],
  [{ ARCH_SECRET: 'short' }, /ARCH_SECRET/],
  [{ APP_DATABASE_URL: 'mysql://x' }, /APP_DATABASE_URL: a postgresql/],
  [{ PORT: '70000' }, /PORT/],
])('%o is refused by name', async (wrong, why) => {
  const { settings } = await settingsOf({ ...RIGHT, ...wrong })
  expect(() => settings()).toThrow(why)
})
