import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, signIn } from '../support/app'

/** Working on lines by hand: nothing is kept that was given up, and nothing is lost that was not. */

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

const NAME = `Worked on by hand ${Date.now() % 100_000}`
const balance = (of = page) => figure(of.getByTestId('balance').textContent())

async function add(question: string, of = page) {
  await of.getByRole('button', { name: 'Add a line' }).click()
  await of.getByRole('dialog', { name: 'Add a line' }).getByRole('option', { name: question, exact: true }).click()
  await of.getByRole('dialog', { name: 'Change the line' }).waitFor()
}

async function newList(name: string, of: string) {
  await page.goto('/lists')
  await page.getByLabel('Name of the new list').fill(name)
  await page.getByLabel('What the list is of').selectOption({ label: of })
  await page.getByRole('button', { name: 'New list' }).click()
  await page.getByRole('heading', { name }).waitFor()
}

test('a new list can begin empty, and with everybody after all', async () => {
  await newList('Begun empty', 'of people, empty')
  await expect.poll(() => balance()).toBe(0)
  await page.getByRole('button', { name: 'More for line 1' }).click()
  await page.getByRole('menuitem', { name: 'Start with all records' }).click()
  await expect.poll(() => balance()).toBeGreaterThan(1000)
})

test('Esc in a line that was just added gives it up; Done leaves the keyboard at the line', async () => {
  await newList(NAME, 'of people')
  await expect.poll(() => balance()).toBeGreaterThan(1000)
  const before = await balance()
  await add('Has a usable address or number')
  await page.keyboard.press('Escape')
  await expect(page.getByTestId('line-2')).toHaveCount(0)
  await expect.poll(() => balance()).toBe(before)
  await expect(page.getByRole('button', { name: 'Add a line' })).toBeFocused()

  await add('Has a usable address or number')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByTestId('line-2').locator('button.chip').first()).toBeFocused()
  await expect(page.getByTestId('line-2')).toContainText('Without this line')
})

test('the first press on a line below one that was changed is not swallowed', async () => {
  await add('Has a usable address or number')
  await page.getByRole('button', { name: 'Done' }).click()
  await page.getByTestId('line-2').locator('button.chip').first().click()
  await page.getByRole('dialog', { name: 'Change the line' }).waitFor()
  await page.getByRole('button', { name: 'Done' }).click()
  await page.getByRole('dialog', { name: 'Change the line' }).waitFor({ state: 'detached' })
  const box = (await page.getByTestId('line-3').locator('button.chip').first().boundingBox()) as {
    x: number
    y: number
    width: number
    height: number
  }
  // As a hand does it: down, a moment, up.
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.waitForTimeout(150)
  await page.mouse.up()
  await expect(page.getByRole('dialog', { name: 'Change the line' })).toBeVisible()
  await page.keyboard.press('Escape')
  // Esc in a line that stood before only closes it.
  await expect(page.getByTestId('line-3')).toBeVisible()
})

test('Enter and Ctrl S save from the word why', async () => {
  await page.getByLabel('Why it is saved').fill('by hand')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/Edition 2, saved/)).toBeVisible()
  await page.getByRole('button', { name: 'More for line 3' }).click()
  await page.getByRole('menuitem', { name: 'Remove' }).click()
  await page.getByLabel('Why it is saved').fill('one less')
  await page.keyboard.press('Control+s')
  await expect(page.getByText(/Edition 3, saved/)).toBeVisible()
})

test('the tab and figure one stands on are there again after Back', async () => {
  const tab = (of: string) => page.getByRole('group', { name: 'Tabs of people' }).getByRole('button', { name: new RegExp(`^${of}`) })
  // The page is drawn anew for the edition that was just saved; a press while it is may be lost.
  await expect(async () => {
    await tab('Left out').click()
    await expect(page).toHaveURL(/tab=out/, { timeout: 2000 })
  }).toPass()
  await page.getByRole('link', { name: 'Directory' }).first().click()
  await page.waitForURL('**/directory')
  await page.goBack()
  await expect(tab('Left out')).toHaveAttribute('aria-pressed', 'true')
  await tab('On the list').click()
  await expect(page).not.toHaveURL(/tab=/)
})

test('two pages of the same person do not overwrite each other’s lines without a word', async () => {
  const other = await page.context().newPage()
  await other.goto(page.url())
  await other.getByRole('heading', { name: NAME }).waitFor()
  await add('Has a usable address or number', other)
  await other.getByRole('button', { name: 'Done' }).click()
  await other.waitForTimeout(1500)
  await page.getByRole('button', { name: 'More for line 2' }).click()
  await page.getByRole('menuitem', { name: 'Switch off' }).click()
  await expect(page.getByText('You edited these lines in another tab')).toBeVisible()
  await expect(page.getByRole('button', { name: /^Save edition/ })).toBeDisabled()
  await page.getByRole('button', { name: 'Load the other version' }).click()
  await expect(page.getByTestId('line-3')).toBeVisible()
  await expect(page.getByTestId('line-2')).not.toContainText('Switched off')
  await other.close()
  await page.goto('/lists')
  await expect(page.getByRole('row', { name: new RegExp(NAME) })).toContainText('without your unsaved lines')
})

test('all behind a tab are kept or dropped at once', async () => {
  await page.getByRole('link', { name: NAME }).click()
  await page.getByRole('heading', { name: NAME }).waitFor()
  await expect.poll(() => balance()).toBeGreaterThan(100)
  await page.getByRole('table', { name: 'People' }).getByRole('checkbox').nth(1).check()
  await page.getByRole('button', { name: /^All .* instead$/ }).click()
  await page.getByRole('button', { name: 'Drop from the list' }).click()
  await page.getByRole('button', { name: 'Do it' }).click()
  await expect.poll(() => balance()).toBe(0)
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect.poll(() => balance()).toBeGreaterThan(100)
})

test('a list of people is narrowed by a list of organisations from where it is looked for, and of premises nothing is offered that they have not', async () => {
  await newList('Organisations by hand', 'of organisations')
  await newList('People of them', 'of people')
  await add('On another list')
  await page.getByRole('button', { name: /^Use a list of organisations/ }).click()
  await page.getByLabel('List of organisations').selectOption({ label: 'Organisations by hand' })
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByTestId('line-2')).toContainText('works at an organisation of')

  await newList('Premises by hand', 'of premises')
  await page.getByRole('button', { name: 'Add a line' }).click()
  await page.getByRole('dialog', { name: 'Add a line' }).getByRole('button', { name: /Limit/ }).click()
  const form = page.getByRole('dialog', { name: 'Change the line' })
  await expect(form.getByRole('combobox', { name: 'Of', exact: true }).getByRole('option')).toHaveText(['each postcode', 'all on the list'])
})

test('how many of a register may be lifted without a reason is set where they are lifted', async () => {
  await page.goto('/screening')
  const share = page.getByLabel(/^Lift without a written reason/)
  const next = String(Number(await share.inputValue()) + 2)
  await share.fill(next)
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('Saved.')).toBeVisible()
  await page.reload()
  await expect(share).toHaveValue(next)
  await accessible(page)
})
