import { expect, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test('a list of premises is screened for post, and an account of the list before a change is not left standing', async ({ page }) => {
  await signIn(page)
  await page.goto('/lists')
  await page.getByLabel('Name of the new list').fill('Letters to premises')
  await page.getByLabel('What the list is of').selectOption('of premises')
  await page.getByRole('button', { name: 'New list' }).click()
  const balance = () => figure(page.getByTestId('balance').textContent())
  await expect.poll(balance).toBeGreaterThan(1000)
  const region = page.getByRole('region', { name: 'Screening for post' })
  await region.getByRole('button', { name: 'Screen for post' }).click()
  const account = region.getByRole('table', { name: 'Screening account for post' })
  const left = (name: string) => figure(account.getByRole('row', { name }).getByRole('cell').last().textContent())
  await expect(account.getByRole('row')).toHaveCount(7)
  const opening = await balance()
  expect(await left('Open with the list')).toBe(opening)
  const outs = await Promise.all(
    ['No postal address', 'Address asked', 'Household asked', 'Owner asked'].map((rule) =>
      figure(account.getByRole('row', { name: rule }).getByRole('cell').nth(1).textContent()),
    ),
  )
  expect(await left('Clear for post')).toBe(opening - outs.reduce((sum, out) => sum + out, 0))
  await accessible(page)
  await fits(page)
  await page.getByRole('button', { name: 'Add a line' }).click()
  await page.getByRole('combobox', { name: 'What it asks' }).fill('roof area')
  await page.keyboard.press('Enter')
  await page.getByLabel('At least').fill('500')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(account).toHaveCount(0)
  await expect(region.getByRole('button', { name: 'Screen for post' })).toBeDisabled()
  await page.getByRole('button', { name: /^Save edition/ }).click()
  await expect(region.getByRole('button', { name: 'Screen for post' })).toBeEnabled()
  await region.getByRole('button', { name: 'Screen for post' }).click()
  await expect.poll(() => left('Open with the list')).toBe(await balance())
  expect(await balance()).toBeLessThan(opening)
})
