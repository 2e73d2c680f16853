import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

const total = () => figure(page.getByRole('table', { name: 'Account of your changes' }).locator('tr.total td').last().textContent())
const items = () => page.locator('[data-change]')

/** The account adds up, line by line. */
async function closes(): Promise<void> {
  const rows = page.getByRole('table', { name: 'Account of your changes' }).locator('tbody tr')
  const cells = await rows.evaluateAll((all) =>
    all.map((row) => [...row.querySelectorAll('td')].slice(1).map((cell) => Number((cell.textContent ?? '').replace(/[^\d]/g, '')))),
  )
  let balance = cells[0][2]
  for (const [out, into, after] of cells.slice(1, -1)) {
    balance += into - out
    expect(after).toBe(balance)
  }
  expect(cells[cells.length - 1][2]).toBe(balance)
}

test('the changes are an account that closes, by what they ask', async () => {
  await page.getByRole('navigation', { name: 'Sections' }).getByRole('link', { name: 'Changes' }).click()
  await expect(page.getByRole('heading', { name: 'Changes', exact: true })).toBeVisible()
  await closes()
  await accessible(page)
  await fits(page)
  const tabs = page.getByRole('group', { name: 'What the changes ask' })
  const all = await figure(tabs.getByRole('button', { name: /^All/ }).textContent())
  expect(await total()).toBe(all)
  await tabs.getByRole('button', { name: /^Confirm/ }).click()
  await expect(page).toHaveURL(/tab=confirm/)
  await page.reload()
  await expect(tabs.getByRole('button', { name: /^Confirm/ })).toHaveAttribute('aria-pressed', 'true')
})

test('ten changes are settled without a mouse, and one is taken back', async () => {
  const before = await total()
  await items().first().focus()
  for (let i = 0; i < 10; i++) {
    const name = await items().first().getAttribute('data-change')
    await page.keyboard.press(i % 3 === 2 ? 'x' : i % 3 === 1 ? 'p' : 'd')
    await expect(page.locator(`[data-change="${name}"]`)).toHaveCount(0)
    await expect(items().first()).toBeFocused()
  }
  await expect.poll(total).toBe(before - 10)
  await closes()
  await page.getByRole('button', { name: 'Undo' }).first().click()
  await expect.poll(total).toBe(before - 9)
})

test('one that is taken says so to a colleague, who cannot settle it', async ({ browser }) => {
  await items().first().focus()
  await page.keyboard.press('ArrowDown')
  const taken = items().nth(1)
  await expect(taken).toBeFocused()
  const id = await taken.getAttribute('data-change')
  await page.keyboard.press('t')
  await expect(page.locator(`[data-change="${id}"]`)).toContainText('taken by you')
  const other = await (await browser.newContext()).newPage()
  await signIn(other, 'Marek Dunn')
  await other.goto('/changes?tab=confirm')
  const seen = other.locator(`[data-change="${id}"]`)
  await seen.click()
  await expect(seen).toContainText('taken by Ines Okafor')
  // Another that stands above is settled meanwhile: keys still go to the one that is looked at.
  const above = await other.locator('[data-change]').first().getAttribute('data-change')
  expect(above).not.toBe(id)
  const beside = await other.context().newPage()
  await beside.goto('/changes?tab=confirm')
  await beside.locator(`[data-change="${above}"]`).focus()
  await beside.keyboard.press('x')
  await expect(other.locator(`[data-change="${above}"]`)).toHaveCount(0)
  await other.keyboard.press('d')
  await expect(other.getByText(/Ines Okafor has taken this/)).toBeVisible()
  await other.close()
})

test('a report of a colleague is among the changes of the record, and reaches who follows it', async () => {
  await page.goto('/directory?find=school')
  await page
    .getByRole('main')
    .getByRole('link')
    .filter({ hasText: /School/ })
    .first()
    .click()
  const part = page.getByRole('region', { name: 'Changes' })
  await part.getByRole('button', { name: 'Follow' }).click()
  await expect(part.getByRole('button', { name: 'Following' })).toHaveAttribute('aria-pressed', 'true')
  await part.getByRole('button', { name: 'Report a change' }).click()
  const form = page.getByRole('form', { name: 'Report a change' })
  await form.getByLabel('What happened').selectOption({ label: 'Storm damage' })
  await form.getByLabel('In a few words').fill('half the roof is under a sheet')
  await form.getByLabel('Link, if there is one').fill('https://wire.example/gale')
  await form.getByRole('button', { name: 'Report change' }).click()
  await expect(page.getByText(/^Reported\./)).toBeVisible()
  await expect
    .poll(async () => {
      await page.reload()
      return part.textContent()
    })
    .toContain('Storm damage: half the roof is under a sheet')
  await accessible(page)
  await page.goto('/changes?tab=opening')
  await expect(items().filter({ hasText: 'half the roof is under a sheet' })).toHaveCount(1)
})

test('a kind is muted for oneself, and a new one is added for the team', async () => {
  await page.goto('/changes')
  const before = await total()
  await page.getByRole('link', { name: 'What you follow' }).click()
  await expect(
    page
      .getByRole('region', { name: 'What you follow' })
      .getByText(/reported/)
      .first(),
  ).toBeVisible()
  await accessible(page)
  await fits(page)
  await page.getByRole('button', { name: 'Mute Storm damage' }).click()
  await expect(page.getByRole('button', { name: 'Mute Storm damage' })).toHaveAttribute('aria-pressed', 'true')
  await page.getByRole('button', { name: 'Add a kind' }).click()
  const form = page.getByRole('form', { name: 'Add a kind' })
  await form.getByLabel('Name', { exact: true }).fill('New neighbour')
  await form.getByLabel(/^Opener/).fill('Welcome {name}')
  await form.getByRole('button', { name: 'Save kind' }).click()
  await expect(form.getByRole('alert')).toContainText('“{name}” is not known')
  await form.getByLabel(/^Opener/).fill('Welcome to the street {when}.')
  await form.getByRole('button', { name: 'Save kind' }).click()
  await expect(page.getByRole('cell', { name: /^New neighbour/ })).toBeVisible()
  await page.goto('/changes')
  expect(await total()).toBeLessThan(before)
  await closes()
})

test('a list asks for changes by words and by source', async () => {
  await page.goto('/lists')
  await page.getByLabel('Name of the new list').fill('Spoke about roofs')
  await page.getByRole('button', { name: 'New list' }).click()
  await expect(page.getByRole('heading', { name: 'Spoke about roofs' })).toBeVisible()
  const balance = () => figure(page.getByRole('button', { name: /^On the list/ }).textContent())
  await expect.poll(balance).toBeGreaterThan(0)
  const everybody = await balance()
  await page.getByRole('button', { name: 'Add a line' }).click()
  await page.getByRole('combobox', { name: 'What it asks' }).fill('what changed')
  await page.keyboard.press('Enter')
  await page.getByLabel('Days').fill('')
  await page.getByText('Only with some words, or from some sources').click()
  await page.getByLabel('Words, one a line').fill('rain on the roofs')
  await page.getByRole('button', { name: 'County wire' }).click()
  await expect(page.getByLabel('Sources, one a line')).toHaveValue('County wire')
  await accessible(page)
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByRole('button', { name: 'rain on the roofs' })).toBeVisible()
  await expect.poll(balance).toBeLessThan(everybody / 10)
  await expect.poll(balance).toBeGreaterThan(0)
  // Nobody's own contacts speak of it.
  await page.getByRole('button', { name: 'County wire' }).click()
  await page.getByLabel('Sources, one a line').fill('contacts')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect.poll(balance).toBe(0)
})
