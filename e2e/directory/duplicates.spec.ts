import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

const found = (title: string) =>
  figure(
    page
      .getByRole('table', { name: 'Account of the search' })
      .getByRole('row', { name: new RegExp(`^${title}`) })
      .locator('.balance')
      .textContent(),
  )
const names = () => page.getByRole('table', { name: 'Two records' }).getByRole('link').allTextContents()

test('doubles are looked for as a job, and shown side by side with what agrees', async () => {
  await page.goto('/directory')
  await page.getByRole('link', { name: 'Find duplicates' }).click()
  await expect(page.getByText('Nobody has searched yet.')).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Find duplicates' }).click()
  await expect(page.getByRole('button', { name: 'Searching for duplicates' })).toBeDisabled()
  await expect(page.getByRole('button', { name: 'Search again' })).toBeEnabled({ timeout: 180_000 })
  expect(await found('Almost certain')).toBeGreaterThan(30)
  await expect(page.getByRole('table', { name: 'Two records' }).getByText(/^family: (close|same|changed places)$/)).toBeVisible()
  await accessible(page)
  await fits(page)
})

test('each is decided with one key, and taken back as easily', async () => {
  const [sure, all] = [await found('Almost certain'), (await found('Almost certain')) + (await found('In doubt'))]
  const first = await names()
  await page.keyboard.press('d')
  await expect(page.getByText(`${first[0]} and ${first[1]} are two.`)).toBeVisible()
  await expect.poll(() => found('Two')).toBe(1)
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect.poll(() => found('Two')).toBe(0)
  await expect.poll(names).toEqual(first)

  await page.keyboard.press('n')
  await expect.poll(async () => [(await names()).length, (await names()).join() === first.join()]).toEqual([2, false])
  const second = await names()
  await page.getByRole('radio').nth(1).check()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^One record/ }).click()
  await expect(page.getByText(`${second[0]} went into ${second[1]}.`)).toBeVisible()
  await expect.poll(() => found('One')).toBe(1)
  expect((await found('Almost certain')) + (await found('In doubt'))).toBeLessThan(all)
  await page.getByRole('button', { name: 'Take it back' }).click()
  // They were one by mistake, so they are two and are not asked about again.
  await expect.poll(() => found('Two')).toBe(1)
  expect(sure).toBeGreaterThan(30)
})

test('a merged record says so on its page, and can be parted there', async () => {
  await page.goto('/directory/doubles')
  const [kept, other] = [
    page.getByRole('columnheader', { name: 'This one stays' }),
    page.getByRole('columnheader', { name: 'Goes into the other' }),
  ]
  await expect(kept).toBeVisible()
  const links = await page
    .getByRole('table', { name: 'Two records' })
    .getByRole('link')
    .evaluateAll((all) => all.map((a) => a.getAttribute('href') as string))
  const gone = (await other.evaluate((th) => (th as HTMLTableCellElement).cellIndex)) === 1 ? links[0] : links[1]
  await page.keyboard.press('s')
  await expect(page.getByText(/ went into /)).toBeVisible()
  await page.goto(gone)
  await expect(page.getByText(/Merged into/)).toBeVisible()
  await page.getByRole('button', { name: 'Take the merge back' }).click()
  await expect(page.getByText(/Merged into/)).toHaveCount(0)
  await expect(page.getByText(/^Merge taken back: stands apart from/)).toBeVisible()
  await accessible(page)
})
