import { readFileSync } from 'node:fs'
import { type Browser, expect, type Page, test } from '@playwright/test'
import { pellowCounty } from '../demo/county'
import { accessible, daysOn, figure, fits, signIn } from './support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  daysOn(0)
  await signIn(page)
})
test.afterAll(() => page.close())

const balance = (on: Page = page) => figure(on.getByTestId('balance').textContent())
/** The balance once it stands still: an edit shows the numbers before it until the new ones are there. */
async function settled(): Promise<number> {
  let last = -1
  for (let i = 0; i < 40; i++) {
    const now = await balance()
    if (now === last) return now
    last = now
    await page.waitForTimeout(1000)
  }
  return last
}

const tab = (name: string, on: Page = page) => on.getByRole('button', { name: new RegExp(`^${name} [\\d,]+$`) })
const line = (n: number, on: Page = page) => on.getByTestId(`line-${n}`)

async function addLine(verb: string, kind: string, on: Page = page) {
  await on.getByRole('button', { name: 'Add a line' }).click()
  await on.getByRole('radio', { name: verb }).check()
  await on.getByRole('dialog', { name: 'Add a line' }).getByRole('option', { name: kind, exact: true }).click()
}

async function openList(name: string, on: Page = page) {
  await on.goto('/lists')
  await on.getByRole('region', { name: 'Lists' }).getByRole('link', { name, exact: true }).click()
  await expect(on.getByRole('heading', { name })).toBeVisible()
  await expect.poll(() => balance(on)).toBeGreaterThan(0)
}

async function newList(name: string) {
  await page.goto('/lists')
  await page.getByLabel('Name of the new list').fill(name)
  await page.getByRole('button', { name: 'New list' }).click()
  await expect(page.getByRole('heading', { name })).toBeVisible()
  await expect.poll(balance).toBeGreaterThan(10_000)
}

async function another(browser: Browser, name: string): Promise<Page> {
  const other = await (await browser.newContext()).newPage()
  await signIn(other, name)
  return other
}

test('a list with a limit and a list that is named; lines are moved by keyboard, switched off and removed, with undo', async () => {
  await newList('Large roofs')
  await addLine('Keep', 'Organisation’s industry')
  await page.getByRole('button', { name: 'school', exact: true }).click()
  await page.getByRole('button', { name: 'Done' }).click()
  await addLine('Drop', 'On another list')
  await page.getByRole('combobox', { name: 'List', exact: true }).selectOption({ label: 'Estates leads at housing bodies' })
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(line(3)).toContainText('Drop is on Estates leads at housing bodies')
  await page.getByRole('button', { name: 'Add a line' }).click()
  await page.getByRole('button', { name: 'Limit', exact: true }).click()
  await page.getByLabel('At most').fill('2')
  await page.getByLabel('Who comes first').selectOption('least often contacted')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(line(4)).toContainText('Limit to 2 for each organisation · least often contacted first')
  await expect(line(4).getByTestId('without')).toBeVisible()

  await page.getByRole('button', { name: 'Move line 4' }).focus()
  await page.keyboard.press('Alt+ArrowUp')
  await expect(line(3)).toContainText('Limit to 2')
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(line(4)).toContainText('Limit to 2')
  await page.getByRole('button', { name: 'Move line 4' }).focus()
  await page.keyboard.press('Space')
  await expect(page.getByText(/^(Picked up|Over) line 4,/)).toBeAttached()
  await page.keyboard.press('ArrowUp')
  await expect(page.getByText(/^Over line 3,/)).toBeAttached()
  await page.keyboard.press('Space')
  await expect(line(3)).toContainText('Limit to 2')
  await page.getByRole('button', { name: 'Undo', exact: true }).click()

  const [grip, over] = [await page.getByRole('button', { name: 'Move line 2' }).boundingBox(), await line(3).boundingBox()]
  if (!grip || !over) throw new Error('no lines to drag')
  await page.mouse.move(grip.x + 6, grip.y + 6)
  await page.mouse.down()
  await page.mouse.move(grip.x + 6, over.y + over.height / 2, { steps: 6 })
  await page.mouse.move(grip.x + 6, over.y + over.height - 4, { steps: 4 })
  await page.mouse.up()
  await expect(line(2)).toContainText('Drop is on')
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(line(3)).toContainText('Drop is on')

  const limited = await settled()
  await page.getByRole('button', { name: 'More for line 4' }).click()
  await page.getByRole('menuitem', { name: 'Switch off' }).click()
  await expect.poll(balance).toBeGreaterThan(limited)
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect.poll(balance).toBe(limited)
  await accessible(page)
  await fits(page)
  await page.keyboard.press('Control+s')
  await expect(page.getByText(/Edition 2, saved/)).toBeVisible()
})

test('any tab goes out as CSV with the reason of each', async () => {
  await tab('Left out').click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: /^With these/ }).click()
  await page.getByRole('menuitem', { name: 'Save as CSV, each with the reason' }).click()
  const file = await download
  expect(file.suggestedFilename()).toBe('large-roofs-left-out.csv')
  const rows = readFileSync(await file.path(), 'utf8')
    .trim()
    .split('\r\n')
  expect(rows.length - 1).toBe(await figure(tab('Left out').textContent()))
  expect(rows.some((row) => row.includes('Left out by line 4'))).toBe(true)

  const second = page.waitForEvent('download')
  await page.getByRole('button', { name: /^With these/ }).click()
  await page.getByRole('menuitem', { name: 'Download file details' }).click()
  const details = await second
  expect(details.suggestedFilename()).toBe('large-roofs-left-out-csv-metadata.json')
  expect(JSON.parse(readFileSync(await details.path(), 'utf8')).tables[0]['dc:extent']).toBe(rows.length - 1)
})

test('the list in hand: one person, all that was found, and another list’s people go on it and off it', async () => {
  await page.getByRole('button', { name: 'More for this list' }).click()
  await page.getByRole('menuitem', { name: 'Take in hand' }).click()
  await expect(page.getByRole('link', { name: 'List in hand: Large roofs' })).toBeVisible()
  await page.goto('/directory')
  const { family } = pellowCounty().people[321]
  await page.getByLabel('Find', { exact: true }).fill(family)
  await expect(page.getByText(/^All [\d,]+ found$/)).toBeVisible()
  await expect(page.getByRole('table', { name: 'People' }).getByRole('link').first()).toContainText(family)
  await page
    .getByRole('checkbox', { name: new RegExp(`^Choose .*${family}`) })
    .first()
    .check()
  await expect(page.getByText('1 chosen', { exact: true })).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Put on it' }).click()
  await expect(page.getByText('1 person was put on “Large roofs”')).toBeVisible()
  await page.getByRole('button', { name: 'Take off it' }).click()
  await expect(page.getByText(/people were taken off “Large roofs”/)).toBeVisible()
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click()
  await openList('Breweries and dairies')
  await page.getByRole('button', { name: /^With these/ }).click()
  await page.getByRole('menuitem', { name: 'Put them on “Large roofs”' }).click()
  await expect(page.getByText('A line that names that list was put on “Large roofs”')).toBeVisible()
  await openList('Large roofs')
  await expect(page.getByText('Not saved yet.')).toBeVisible()
  await expect(line(5)).toContainText('Pick in')
  await expect(page.getByText('Add everyone who is on Breweries and dairies')).toBeVisible()
  await accessible(page)
  await page.keyboard.press('Control+s')
  await expect(page.getByText(/Edition 3, saved/)).toBeVisible()
})

test('two editions are compared line by line and by who joined and left', async () => {
  await page.getByRole('link', { name: 'Compare editions' }).click()
  await expect(page.getByRole('heading', { name: 'Editions · Large roofs' })).toBeVisible()
  await expect(page.getByText('Added').first()).toBeVisible()
  const [opening, left, joined, closing] = await Promise.all(
    [0, 1, 2, 3].map((i) =>
      figure(page.getByRole('table', { name: 'The two editions' }).locator('tr').nth(i).locator('.balance').textContent()),
    ),
  )
  expect(opening - left + joined).toBe(closing)
  expect(joined).toBeGreaterThan(50)
  await expect(page.getByRole('columnheader', { name: 'Deciding line' })).toBeVisible()
  await accessible(page)
  await fits(page)
})

test('two people at once: the second is told, sees the difference line by line and brings theirs over', async ({ browser }) => {
  const tam = await another(browser, 'Tam Reyes')
  await openList('Large roofs', tam)
  await addLine('Keep', 'County', tam)
  await tam.getByRole('button', { name: 'Pellow', exact: true }).click()
  await tam.getByRole('button', { name: 'Done' }).click()
  await openList('Large roofs')
  await addLine('Drop', 'Tag')
  await page.getByRole('button', { name: 'newsletter', exact: true }).click()
  await page.getByRole('button', { name: 'Done' }).click()
  await page.keyboard.press('Control+s')
  await expect(page.getByText(/Edition 4, saved/)).toBeVisible()
  // The open page learns of it by itself.
  await expect(tam.getByText('Ines Okafor saved edition 4 just now. Your changes are still here.')).toBeVisible()
  await tam.getByRole('button', { name: 'See what differs' }).click()
  const conflict = tam.getByRole('alert', { name: 'Saved by somebody else' })
  await expect(conflict).toContainText('Added Drop is tagged newsletter')
  await accessible(tam)
  await conflict.getByRole('button', { name: 'Bring 1 over and go on' }).click()
  await expect(tam.getByText('Drop is tagged newsletter')).toBeVisible()
  await expect(tam.getByText('Keep county is Pellow')).toBeVisible()
  await tam.getByRole('button', { name: 'Save edition 5' }).click()
  await expect(tam.getByText(/Edition 5, saved/)).toBeVisible()
  // Who had nothing unsaved simply sees the new edition.
  await expect(page.getByText(/Edition 5, saved .* by Tam Reyes/)).toBeVisible()
  await tam.close()
})

test('who came on since one last looked is told beside the list and in a tab of its own', async () => {
  await newList('Newcomers of the fair')
  await addLine('Keep', 'Tag')
  await page.getByLabel('Tags, one a line').fill('met at the fair')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect.poll(balance).toBe(0)
  await page.keyboard.press('Control+s')
  await expect(page.getByText(/Edition 2, saved/)).toBeVisible()
  // An hour on it is another look.
  daysOn(0.05)
  await page.reload()
  await expect.poll(balance).toBe(0)
  await page.goto('/intake')
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'fair.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'Name,Email,Tags\nMaud Newcome,maud.newcome@example.org,met at the fair\nJoss Newcome,joss.newcome@example.org,met at the fair\n',
    ),
  })
  await page.getByRole('button', { name: 'Import file' }).click()
  await expect(page.getByTestId('rows')).toHaveText('2', { timeout: 30_000 })
  await page.goto('/lists')
  await expect(page.getByRole('row', { name: /Newcomers of the fair/ })).toContainText('2 new')
  daysOn(0.1)
  await page.getByRole('link', { name: 'Newcomers of the fair' }).click()
  await tab('New since you looked').click()
  await expect(page.getByText(/^Only the 2 who joined since you last looked/)).toBeVisible()
  await expect(page.getByRole('link', { name: 'Joss Newcome' })).toBeVisible()
  await accessible(page)
})

test('that batch is undone: what it created is withdrawn, and the account says so', async () => {
  await page.goto('/intake')
  await page.getByRole('link', { name: 'fair.csv' }).first().click()
  await page.getByText('Undo this batch').click()
  await accessible(page)
  await page.getByRole('button', { name: 'Undo 2 rows' }).click()
  await expect(page.getByRole('table', { name: 'Account of the undoing' })).toContainText('Withdrawn', { timeout: 30_000 })
  await expect(page.getByTestId('undone-withdrawn').locator('.balance')).toHaveText('2')
  await accessible(page)
  await page.goto('/lists')
  await expect(page.getByRole('row', { name: /Newcomers of the fair/ })).not.toContainText('new')
})

test('suppressions of a domain and of a postal address; found, saved as CSV', async () => {
  await page.goto('/screening')
  await page.getByLabel('Email, phone, or a domain such as @example.org').fill('@example.net')
  await page.getByLabel('Requested by').first().fill('their office')
  await page.getByRole('button', { name: 'Suppress', exact: true }).first().click()
  await expect(page.getByText('Saved in the ledger.')).toBeVisible()
  await page.getByText('Suppress a postal address').click()
  await page.getByLabel('Street and number').fill('12 Mill Lane')
  await page.getByLabel('Town', { exact: true }).fill('Thornmouth')
  await page.getByLabel('Requested by', { exact: true }).nth(1).fill('a letter')
  await page.getByRole('button', { name: 'Suppress', exact: true }).nth(1).click()
  await page.getByLabel(/^Find by name, organisation/).fill('example.net')
  const row = page.getByRole('row', { name: /^example\.net/ })
  await expect(row).toContainText('email domain')
  expect(await figure(row.locator('td').last().textContent())).toBeGreaterThan(50)
  await accessible(page)
  await fits(page)
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Save as CSV' }).click()
  expect(readFileSync(await (await download).path(), 'utf8')).toContain('email domain,example.net,,example.net')
})

test('a customer is let through with a reason; an opt-out cannot be', async () => {
  await openList('Estates leads at housing bodies')
  await page.getByRole('link', { name: 'Requalify', exact: true }).click()
  await expect(page.getByTestId('check-anew')).toContainText(/email address.* not checked in the last/)
  await page.getByRole('button', { name: /^Start round/ }).click()
  await page.waitForURL('**/rounds/*')
  const clear = () => figure(tab('Clear').textContent())
  await expect.poll(clear).toBeGreaterThan(50)
  const before = await clear()
  await page
    .getByTestId('rule-customers')
    .getByRole('button', { name: /^email closed/ })
    .click()
  await expect(page.getByText(/whose email was closed by/)).toBeVisible()
  await page
    .getByRole('button', { name: /^Let .* through$/ })
    .first()
    .click()
  await page.getByLabel('Reason, kept with the round and in the ledger').fill('they asked for the spring survey')
  await accessible(page)
  await page.getByRole('button', { name: 'Let through', exact: true }).click()
  await expect.poll(clear).toBeGreaterThan(before)
  await tab('Let through').click()
  await expect(page.getByText(/^Let through by .*: they asked for the spring survey \(Ines Okafor\)/)).toBeVisible()
  await page.getByRole('button', { name: 'Take back' }).click()
  await expect.poll(clear).toBe(before)
  await page
    .getByTestId('rule-asked-to-stop')
    .getByRole('button', { name: /^email closed/ })
    .click()
  await expect(page.getByText('Asked us to stop').nth(1)).toBeVisible()
  // Whoever is closed on another channel for another reason may be let through there, but never by email.
  const others = page.getByRole('button', { name: /^Let .* through$/ })
  for (const other of await others.all()) {
    await other.click()
    await expect(page.getByLabel('By', { exact: true })).not.toContainText('email')
    await page.keyboard.press('Escape')
  }
  await fits(page)
})

test('signing in waits after too many attempts', async ({ browser }) => {
  const other = await (await browser.newContext()).newPage()
  await other.goto('/sign-in')
  const waits = other.getByRole('alert').filter({ hasText: 'Too many attempts' })
  for (let i = 0; i < 12 && !(await waits.isVisible()); i++) {
    // Whoever is tried so has to wait a quarter of an hour, so it is nobody whom another test signs in as.
    await other.getByLabel('Email').fill('nobody.here@brackenfold.example')
    await other.getByLabel('Password').fill(`wrong ${i}`)
    const answered = other.waitForResponse((response) => response.request().method() === 'POST')
    await other.getByRole('button', { name: 'Sign in' }).click()
    await answered
    await expect(other.getByRole('button', { name: 'Sign in' })).toBeEnabled()
  }
  await expect(waits).toBeVisible()
  await other.close()
})
