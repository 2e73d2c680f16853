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

test('a file that is in is made a list of those it brought', async ({ page }) => {
  await signIn(page)
  await page.goto('/intake')
  await page.getByRole('link', { name: 'county-directory.csv' }).first().click()
  await expect(page.getByTestId('outcome-new')).toContainText(/\d/)
  const came =
    (await figure(page.getByTestId('outcome-new').locator('.balance').textContent())) +
    (await figure(page.getByTestId('outcome-same').locator('.balance').textContent()))
  await page.getByRole('button', { name: 'Make a list of these' }).click()
  await expect(page.getByRole('heading', { name: 'From county-directory.csv' })).toBeVisible()
  await expect(page.getByTestId('line-1')).toContainText('Start with everyone from county-directory.csv')
  await expect.poll(() => figure(page.getByTestId('balance').textContent())).toBeGreaterThan(0)
  expect(await figure(page.getByTestId('balance').textContent())).toBeLessThanOrEqual(came + 20_000)
})

test('columns are saved for the team, used with one press on another list, and deleted', async ({ page }) => {
  await signIn(page)
  const openList = async (name: string) => {
    await page.goto('/lists')
    await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name, exact: true }).click()
    await page.getByRole('button', { name: 'Columns' }).click()
  }
  await openList('Breweries and dairies')
  for (const column of ['Role', 'Town']) await page.getByLabel('Add a column').selectOption({ label: column })
  await page.getByLabel('Save these columns as').fill('For calls')
  await page.getByRole('button', { name: 'Save columns' }).click()
  await expect(page.getByRole('button', { name: 'For calls', exact: true })).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Reset columns' }).click()

  await openList('Schools and clinics, north Pellow')
  await page.getByRole('button', { name: 'For calls', exact: true }).click()
  await page.keyboard.press('Escape')
  const people = page.getByRole('table', { name: 'People' })
  await expect(people.getByRole('columnheader', { name: 'Role' })).toBeVisible()
  await expect(people.getByRole('columnheader', { name: 'Town' })).toBeVisible()
  await page.getByRole('button', { name: 'Columns' }).click()
  await page.getByRole('button', { name: 'Delete the columns For calls' }).click()
  await expect(page.getByRole('button', { name: 'For calls', exact: true })).toHaveCount(0)
  await page.getByRole('button', { name: 'Reset columns' }).click()
})

test('a record beside the list, a filter of suppressions and the archive are there again after a reload', async ({ page }) => {
  await signIn(page)
  await page.goto('/screening?reason=register')
  const filter = page.getByRole('region', { name: 'The suppressions' }).getByLabel('Reason')
  await expect(filter).toHaveValue('register')
  await page.reload()
  await expect(filter).toHaveValue('register')
  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: 'Breweries and dairies', exact: true }).click()
  await page.getByRole('table', { name: 'People' }).getByRole('link').first().click()
  const beside = page.getByRole('complementary')
  await expect(beside).toBeVisible()
  const who = await beside.getByRole('heading').first().textContent()
  await expect(page).toHaveURL(/beside=\d+/)
  await page.reload()
  await expect(page.getByRole('complementary').getByRole('heading').first()).toHaveText(who as string)
  await page.keyboard.press('Escape')
  await expect(page).not.toHaveURL(/beside=/)
})
