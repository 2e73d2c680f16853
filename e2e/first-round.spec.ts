import { readFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, signIn } from './support/app'

/** Follows docs/first-round.md word for word: whatever stands there in bold is looked for on the screen, in its order. */
const bold = [...readFileSync('docs/first-round.md', 'utf8').matchAll(/\*\*([^*]+)\*\*/g)].map(([, words]) => words.replace(/\s+/g, ' '))

let at = 0
/** The next words in bold, which must be these. */
const next = (expected: string): string => {
  expect(bold[at], `word ${at + 1} in bold of the guide`).toBeDefined()
  const words = bold[at++]
  // The first words of a step are its title.
  if (words.endsWith('.')) return next(expected)
  expect(words).toBe(expected)
  return words
}

const balance = (page: Page) => figure(page.getByTestId('balance').textContent())

test('the guide to a first round leads from the demo county to a call sheet', async ({ page }) => {
  await signIn(page)
  await page
    .getByRole('navigation', { name: 'Sections' })
    .getByRole('link', { name: next('Lists') })
    .click()
  await page.getByLabel(next('Name of the new list')).fill('A first round')
  await page.getByRole('button', { name: next('New list') }).click()
  await expect(page.getByRole('heading', { name: 'A first round' })).toBeVisible()
  await expect.poll(() => balance(page)).toBeGreaterThan(1000)
  const everyone = await balance(page)

  await page.getByRole('button', { name: next('Add a line') }).click()
  await page.getByRole('option', { name: next('Function of the role'), exact: true }).click()
  await page.getByLabel(next('estates and facilities')).check()
  await page.getByRole('button', { name: next('Done') }).click()
  await expect.poll(() => balance(page)).toBeLessThan(everyone)
  const led = await balance(page)

  await page.getByRole('button', { name: next('Add a line') }).click()
  await page.getByRole('option', { name: next('Has a usable address or number'), exact: true }).click()
  await page.getByRole('combobox', { name: next('Has a usable'), exact: true }).selectOption({ label: next('phone number') })
  await page.getByRole('button', { name: next('Done') }).click()
  await expect.poll(() => balance(page)).toBeLessThan(led)

  await page.getByRole('button', { name: next('Set a wanted size') }).click()
  await page.getByLabel(next('Wanted from')).fill('100')
  await page.getByLabel(next('to'), { exact: true }).fill('200')
  await page.getByRole('button', { name: next('Set'), exact: true }).click()
  await page.getByRole('list', { name: 'Lines that would narrow it' }).getByRole('button').first().click()
  await expect(page.getByRole('region', { name: 'Wanted size' })).toContainText('it is right-sized')
  await accessible(page)
  await page.getByRole('button', { name: next('Save edition 2') }).click()
  await expect(page.getByText(/Edition 2, saved/)).toBeVisible()

  await page.getByRole('button', { name: next('Start round 1') }).click()
  await expect(page.getByRole('heading', { name: 'Round 1 · A first round' })).toBeVisible()
  await expect(page.getByTestId('clear')).toContainText(/\d/)
  await page
    .getByRole('listitem')
    .getByRole('link', { name: next('Check'), exact: true })
    .click()
  await page.getByRole('button', { name: next('Draw sample') }).click()
  await expect(page.getByRole('article')).toBeVisible()
  await page.keyboard.press(next('F'))
  await expect(page.getByRole('button', { name: 'Fit 1' })).toBeVisible()
  await page.keyboard.press(next('X'))
  await page.keyboard.press('2')
  await expect(page.getByRole('button', { name: 'Don’t belong 1' })).toBeVisible()
  await page.getByRole('link', { name: next('Back to the round') }).click()
  await page.getByRole('button', { name: next('Release round 1') }).click()
  await page.getByRole('button', { name: next('Release to') }).click()
  const sheet = page.getByRole('link', { name: next('Phone file') })
  await expect(sheet).toBeVisible({ timeout: 90_000 })
  const download = page.waitForEvent('download')
  await sheet.click()
  const rows = readFileSync(await (await download).path(), 'utf8')
    .trim()
    .split('\r\n')
  expect(rows[0]).toMatch(/^Record number,Name,.*Phone,Notes$/)
  expect(rows.length - 1).toBe(await figure(sheet.textContent()))
  const about = page.waitForEvent('download')
  await page.getByRole('link', { name: next('Download file details') }).click()
  const { tables } = JSON.parse(readFileSync(await (await about).path(), 'utf8'))
  expect(tables.map((table: { 'dc:extent': number }) => table['dc:extent'])).toContain(rows.length - 1)

  await page.getByRole('button', { name: new RegExp(`^${next('Clear')} [\\d,]+$`) }).click()
  await expect(page.getByRole('columnheader', { name: 'Held back because' })).toHaveCount(0)
  await page.getByRole('table', { name: 'People' }).getByRole('link').first().click()
  const spoken = page.getByRole('region', { name: 'The ledger' }).getByText('Phone · spoke')
  await expect(page.getByRole('combobox', { name: 'Result' })).toBeVisible()
  const before = await spoken.count()
  await page.getByRole('combobox', { name: next('Result') }).selectOption('spoke')
  await page.getByRole('button', { name: next('Record'), exact: true }).click()
  await expect(spoken).toHaveCount(before + 1)

  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: 'A first round' }).click()
  await expect(page.getByRole('link', { name: next('Requalify') }).first()).toBeVisible()
  expect(at, 'everything in bold was looked for').toBe(bold.length)
})
