import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

const items = (state: string) => figure(page.getByTestId(`items-${state}`).locator('.balance').textContent())
const over = { timeout: 60_000 }

test('a search that finds too much is split, what we have costs nothing, and what has no email is dropped in one go', async () => {
  await page.goto('/intake')
  await page.getByRole('link', { name: 'Outside sources' }).click()
  await expect(page.getByRole('heading', { name: 'Outside sources' })).toBeVisible()
  await accessible(page)
  await page.getByLabel('Words in any order, singular or plural').fill('storage')
  await page.getByRole('button', { name: 'Find' }).click()
  await expect(page.getByText(/are there, and the source gives out at most 120 a search/)).toBeVisible(over)
  await accessible(page)
  await page
    .getByRole('button', { name: 'Split it by district' })
    .or(page.getByRole('button', { name: 'By district' }))
    .first()
    .click()
  await expect(page.getByText(/^Split by district into \d+ parts, all \d+ came, none twice\.$/)).toBeVisible(over)
  const [found, open] = [await figure(page.getByTestId('items-total').textContent()), await items('open')]
  expect(found).toBeGreaterThan(120)
  await page.getByLabel('email').click()
  await expect(page.getByTestId('items-left out')).toBeVisible()
  await expect.poll(async () => (await items('open')) + (await items('left out'))).toBe(open)
  expect(await items('open')).toBeLessThan(open)
  await accessible(page)
  await fits(page)
})

test('it is held against a list before anything is bought: who would be on, and who is left out by which line', async () => {
  const open = await items('open')
  await page.getByLabel('Check against a list before you buy').selectOption({ label: 'Breweries and dairies' })
  const tried = page.getByRole('table', { name: 'What Breweries and dairies would make of them' })
  await expect(tried).toBeVisible()
  await expect(tried).toContainText(`of ${open.toLocaleString('en-GB')}`)
  await expect(page.getByRole('table', { name: 'Could come in' })).toContainText(
    /left out by line \d+ of Breweries and dairies|not known yet|would be on/,
  )
  await accessible(page)
  await fits(page)
  await page.getByLabel('Check against a list before you buy').selectOption('')
  await expect(tried).toBeHidden()
})

test('it is paid for up to what it may cost, goes on, and comes in as a batch', async () => {
  const open = await items('open')
  await page.getByLabel(/^Spend at most/).fill('0.4')
  await page.getByRole('button', { name: 'Buy records' }).click()
  await expect(page.getByText('The most it may cost, £0.40, allows for no more. What came is kept.')).toBeVisible(over)
  await expect(page.getByTestId('cost')).toHaveText('£0.40')
  expect(await items('fetched')).toBe(10)
  await page.getByLabel(/^Spend at most/).fill('100')
  await page.getByRole('button', { name: 'Continue' }).click()
  await expect(page.getByTestId('cost')).toHaveText(`£${(open * 0.04).toFixed(2)}`, over)
  await accessible(page)
  await page.getByRole('button', { name: /^Look at the \d+ as a batch$/ }).click()
  await page.getByRole('heading', { name: 'The first rows, as they will be stored' }).waitFor()
  await page.getByRole('button', { name: 'Import file' }).click()
  await expect.poll(() => figure(page.getByTestId('rows').textContent()), over).toBe(open)
})

test('the email addresses of a list are checked; a second time costs nothing', async () => {
  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: 'Breweries and dairies' }).click()
  await page.getByRole('button', { name: 'More for this list' }).click()
  await page.getByRole('menuitem', { name: 'Check and fill from a source' }).click()
  await expect(page.getByRole('heading', { name: 'Check email addresses' })).toBeVisible()
  await accessible(page)
  const start = page.url()
  await page.getByRole('button', { name: 'See how many there are' }).click()
  await page.getByRole('button', { name: 'Check addresses' }).click()
  await expect(page.getByText(/· done$/)).toBeVisible(over)
  expect((await items('verified')) + (await items('uncertain')) + (await items('bad'))).toBe(
    await figure(page.getByTestId('items-total').textContent()),
  )
  const bad = await items('bad')
  await page.getByRole('button', { name: /^Bad: / }).click()
  await accessible(page)
  await page.getByRole('table', { name: 'Bad' }).getByRole('link').first().click()
  await expect(page.getByText(/unusable: checked as bad/).first()).toBeVisible()
  await accessible(page)
  await page.goto(start)
  await page.getByRole('button', { name: 'See how many there are' }).click()
  await expect(page.getByTestId('items-known')).toBeVisible()
  // Under the list’s limit somebody else may have taken the place of one whose address proved bad; nobody who was checked is asked about again.
  expect(await items('open')).toBeLessThanOrEqual(bad)
})

test('gaps of a list are filled: the most it can cost is shown first, and what came is a file that fills blanks', async () => {
  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: 'Breweries and dairies' }).click()
  await page.getByRole('button', { name: 'More for this list' }).click()
  await page.getByRole('menuitem', { name: 'Check and fill from a source' }).click()
  await page.getByRole('button', { name: 'See what it would cost' }).click()
  await expect(page.getByText('verified £0.09, uncertain £0.00, nothing £0.00')).toBeVisible()
  await page.getByRole('button', { name: 'Fill gaps' }).click()
  await expect(page.getByText(/· done$/)).toBeVisible(over)
  await expect(page.getByText(/^Of those asked about, something was found for \d+ %: .+\.$/)).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: /as a batch$/ }).click()
  await page.getByRole('heading', { name: 'The first rows, as they will be stored' }).waitFor()
  await expect(page.getByLabel('Record number holds')).toHaveValue('record')
  await expect(page.getByText(/keep ours for name, role, organisation, address/)).toBeVisible()
})

test('gaps of those a line does not know what to make of are filled from the list, and the enquiry says what came of it', async () => {
  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: 'Estates leads at housing bodies' }).click()
  await page.getByTestId('line-2').locator('td').nth(2).getByRole('button').click()
  const fill = page.getByTestId('fill-unknown')
  await expect(fill).toContainText(/Judging by the others, about [\d,]+ of these [\d,]+ would stay\./)
  await expect(fill.getByRole('button')).toHaveText(/^Fill gaps of these [\d,]+, £[\d,.]+ at most$/)
  await accessible(page)
  await fits(page)
  await fill.getByRole('button').click()
  await expect(page.getByRole('heading', { name: 'Gaps of Estates leads at housing bodies, line 2' })).toBeVisible()
  const came = page.getByRole('table', { name: 'What came of it' })
  await expect(came.getByRole('row', { name: /^Unknown to line 2/ })).toBeVisible()
  expect(
    await figure(
      came
        .getByRole('row', { name: /^Unknown to line 2/ })
        .locator('td')
        .nth(1)
        .textContent(),
    ),
  ).toBe(await items('open'))
  await accessible(page)
})
