import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

const balance = () => figure(page.getByRole('button', { name: /^On the list/ }).textContent())
const askedFor = async (text: string) => {
  await page.getByRole('button', { name: 'Add a line' }).click()
  await page.getByRole('combobox', { name: 'What it asks' }).fill(text)
  await page.keyboard.press('Enter')
}

test('a line asks two things at once: whoever both are true of, or either', async () => {
  await page.goto('/lists')
  await page.getByLabel('Name of the new list').fill('Two things at once')
  await page.getByRole('button', { name: 'New list' }).click()
  await expect(page.getByRole('heading', { name: 'Two things at once' })).toBeVisible()
  await askedFor('both')
  await page.getByLabel('First question').selectOption('Role wording')
  await page.getByLabel('Words or phrases of the role, one a line').fill('estates')
  await page.getByLabel('Another question in this line').selectOption('Organisation’s industry')
  await page.getByLabel('Industries, one a line').fill('school')
  await accessible(page)
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByRole('button', { name: 'and also' })).toBeVisible()
  await expect.poll(() => figure(page.getByRole('button', { name: /^Left out/ }).textContent())).toBeGreaterThan(0)
  const [before, both] = [await figure(page.getByRole('button', { name: /^Left out/ }).textContent()), await balance()]
  expect(before).toBeGreaterThan(both)
  await page.getByRole('button', { name: 'and also' }).click()
  await page.getByLabel('A record matches if').selectOption('any of these is true')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByRole('button', { name: 'or else' })).toBeVisible()
  await expect.poll(balance).toBeGreaterThan(both)
  await fits(page)
})

test('a line that asks one thing is given another, and has it taken off again', async () => {
  await page.getByRole('button', { name: 'Undo' }).click()
  await askedFor('town')
  await page.getByLabel('Towns, one a line').fill('Thornmouth')
  await page.getByLabel('Another question in this line').selectOption('Relation to us')
  await page.getByRole('checkbox', { name: /^customer/ }).check()
  await page.getByRole('button', { name: 'Remove question 1' }).click()
  await expect(page.getByLabel('A record matches if')).toHaveCount(0)
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByText(/relation to us is/).first()).toBeVisible()
  await expect(page.getByRole('button', { name: 'Thornmouth', exact: true })).toHaveCount(0)
})
