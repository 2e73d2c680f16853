import { expect, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

test('what was found is made a list in one step, and comes back after a reload', async ({ page }) => {
  await signIn(page)
  await page.goto('/directory')
  await page.getByLabel('Find', { exact: true }).fill('bursar')
  const group = page.getByRole('group', { name: 'What was found' })
  await expect(group).toContainText(/\d found/)
  await page.getByLabel('Sort by').selectOption('town')
  await page.reload()
  await expect(page.getByLabel('Find', { exact: true })).toHaveValue('bursar')
  await expect(page.getByLabel('Sort by')).toHaveValue('town')
  const found = await figure(group.textContent())
  await accessible(page)
  await fits(page)
  await group.getByRole('button', { name: 'Make a list of these' }).click()
  await expect(page.getByRole('heading', { name: 'Found: bursar' })).toBeVisible()
  await expect.poll(() => figure(page.getByTestId('balance').textContent())).toBe(found)
})

test('a search shows organisations and premises too, each with its kind before it', async ({ page }) => {
  await signIn(page)
  await page.goto('/directory')
  await page.getByLabel('Find', { exact: true }).fill('school')
  const others = page.getByRole('region', { name: 'Found besides people' })
  await expect(
    others
      .getByRole('listitem')
      .filter({ hasText: /^Organisation/ })
      .first(),
  ).toBeVisible()
  await others.getByRole('button', { name: /^All [\d,]+ organisations$/ }).click()
  await expect(page).toHaveURL(/show=organisations/)
  await expect(
    page
      .getByRole('tab', { name: /^Organisations/ })
      .or(page.getByRole('button', { name: /^Organisations/ }))
      .first(),
  ).toBeVisible()
  await page.goBack()
})

test('those most like one person are a step away from their page', async ({ page }) => {
  await signIn(page)
  await page.goto('/directory?find=bursar')
  await page.getByRole('table', { name: 'People' }).getByRole('link').first().click()
  const name = (await page.getByRole('heading', { level: 1 }).textContent()) as string
  await page.getByRole('button', { name: 'More like this one' }).click()
  await expect(page).toHaveURL(/profile\?tab=alike/)
  await expect(page.getByText(name).first()).toBeVisible()
  await expect(
    page
      .getByRole('button', { name: /^More like these/ })
      .or(page.getByRole('tab', { name: /^More like these/ }))
      .first(),
  ).toContainText(/\d/)
  await page.reload()
  await expect(page).toHaveURL(/profile\?tab=alike/)
})
