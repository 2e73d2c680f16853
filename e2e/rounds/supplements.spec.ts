import { readFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

const clear = async () => figure(page.getByTestId('clear').locator('td').last().textContent())
const clearBy = (channel: string) => figure(page.getByRole('button', { name: new RegExp(`^Clear by ${channel}`) }).textContent())

test('whoever came onto the list of a round that is out goes out in a supplement, in steps of its own', async () => {
  await page.goto('/rounds')
  await page.getByRole('link', { name: 'Round 1 · Breweries and dairies' }).click()
  await expect(page.getByRole('heading', { name: 'Round 1 · Breweries and dairies' })).toBeVisible()
  await page.getByRole('button', { name: 'Add supplement' }).click()
  await expect(page.getByRole('heading', { name: 'Round 1, supplement 1 · Breweries and dairies' })).toBeVisible()
  await expect(page.getByTestId('supplement')).toContainText('Goes out under round 1')
  await expect.poll(clear).toBeGreaterThan(10)
  const steps = page.getByRole('group', { name: 'Steps' })
  await steps.getByLabel('When Phone is used').selectOption('later')
  await steps.getByLabel('Days until Phone').fill('0')
  await expect(steps.getByRole('button', { name: 'Save steps' })).toBeDisabled()
  await steps.getByLabel('Days until Phone').fill('7')
  await accessible(page)
  await steps.getByRole('button', { name: 'Save steps' }).click()
  await expect(steps.getByRole('button', { name: 'Save steps' })).toBeHidden()
  await expect(steps.getByLabel('Days until Phone')).toHaveValue('7')
  const [people, calls] = [await clear(), await clearBy('phone')]
  // Released at once after that: what was shown is asked for anew with it.
  await page.getByRole('button', { name: 'Release round 1, supplement 1' }).click()
  await expect(page.getByRole('alertdialog')).toContainText('Later steps: phone 7 days later, unless they answered.')
  await page.getByRole('button', { name: `Release to ${people} people` }).click()
  const made = page.getByRole('table', { name: 'Steps' })
  await expect(made.getByRole('row', { name: /^2 Phone unless they answered/ })).toContainText(String(calls))
  await accessible(page)
  await fits(page)
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: /^Phone file/ }).click()
  const file = await download
  expect(file.suggestedFilename()).toMatch(/round-1-supplement-1-phone\.csv$/)
  expect(
    readFileSync((await file.path()) as string, 'utf8')
      .trim()
      .split('\n'),
  ).toHaveLength(calls + 1)
})

test('its round counts it in: on its page, in its results and when the list is requalified', async () => {
  await page.getByTestId('supplement').getByRole('link', { name: 'round 1' }).click()
  const supplements = page.getByRole('region', { name: 'Supplements' })
  const added = await figure(
    supplements
      .getByRole('listitem')
      .textContent()
      .then((text) => (text ?? '').replace(/^.*supplement 1/, '')),
  )
  expect(added).toBeGreaterThan(10)
  const own = await clear()
  await page.getByRole('listitem').filter({ hasText: 'Results' }).getByRole('link').click()
  const account = page.getByRole('table', { name: 'Account of results' })
  await expect(account).toBeVisible()
  expect(await figure(account.locator('tbody tr').first().locator('td').last().textContent())).toBe(own + added)
  await page.getByLabel('Count by').selectOption('supplement')
  await expect(page.getByRole('table', { name: 'Results by part' }).getByRole('row', { name: /^Supplement 1/ })).toContainText(
    String(added),
  )
  await page.goto('/rounds')
  await expect(page.getByRole('link', { name: 'Round 1, supplement 1 · Breweries and dairies' })).toBeVisible()
  await page.getByRole('link', { name: 'Round 1 · Breweries and dairies' }).click()
  // One that is begun and dropped again leaves nothing.
  await page.getByRole('button', { name: 'Add supplement' }).click()
  await page.getByRole('button', { name: 'Drop supplement' }).click()
  await expect(page.getByRole('heading', { name: 'Round 1 · Breweries and dairies' })).toBeVisible()
  await expect(supplements.getByRole('listitem')).toHaveCount(1)
})
