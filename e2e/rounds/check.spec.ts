import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

test('a list is given openers: the kinds of changes they come from, with a sentence of its own', async () => {
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: 'Estates leads at housing bodies', exact: true }).click()
  await page.getByLabel('More for this list').click()
  await page.getByRole('menuitem', { name: 'Copy as my own' }).click()
  await expect(page.getByRole('heading', { name: /^Estates leads at housing bodies, copy/ })).toBeVisible()
  await page.getByLabel('More for this list').click()
  await page.getByRole('menuitem', { name: 'Openers…' }).click()
  const dialog = page.getByRole('dialog', { name: 'Openers of this list' })
  await dialog.getByRole('checkbox', { name: /^Taking people on/ }).check()
  const sentence = dialog.getByLabel('Sentence for Taking people on')
  await sentence.fill('{organisation} is {wrong}.')
  await dialog.getByRole('button', { name: 'Save openers' }).click()
  await expect(dialog.getByRole('alert')).toContainText('“{wrong}” is not known')
  await sentence.fill('{organisation} has been taking people on {when}.')
  await expect(dialog.getByText('Low Wendle Clinic has been taking people on in October.')).toBeVisible()
  await accessible(page)
  await dialog.getByRole('button', { name: 'Save openers' }).click()
  await expect(page.getByText(/openers from 1 kind of changes/)).toBeVisible()
  await page.getByRole('button', { name: 'Columns' }).click()
  await page.getByLabel('Add a column').selectOption({ label: 'Opener' })
  await page.keyboard.press('Escape')
  await expect(page.getByRole('columnheader', { name: 'Opener' })).toBeVisible()
  // What is new since this very list's last round can be asked for.
  await page.getByRole('button', { name: 'Add a line' }).click()
  await page.getByRole('option', { name: 'Changes', exact: true }).click()
  await page.getByLabel('Since when').selectOption('round')
  await expect(page.getByLabel('List', { exact: true }).locator('option:checked')).toHaveText('Estates leads at housing bodies, copy')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByText('since the last round of Estates leads at housing bodies, copy')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
})

test('its round is checked with the keyboard alone: a sample, a verdict a key, and back', async () => {
  await page.getByRole('button', { name: /^Start round/ }).click()
  await expect(page.getByRole('table', { name: 'Screening account' })).toBeVisible()
  await expect(page.getByTestId('clear').locator('td').last()).toHaveText(/\d/)
  const clear = await figure(page.getByTestId('clear').locator('td').last().textContent())
  await page.getByRole('listitem').getByRole('link', { name: 'Check' }).click()
  await expect(page.getByText(`${clear.toLocaleString('en-GB')} are clear to contact`)).toBeVisible()
  await page.getByLabel('Look at', { exact: true }).fill('24')
  await page.getByRole('button', { name: 'Draw sample' }).click()
  await expect(page.getByRole('button', { name: 'To see 24' })).toBeVisible()
  await accessible(page)
  await fits(page)
  const card = page.getByRole('article')
  const name = () => card.getByRole('heading').textContent()
  const first = await name()
  await page.keyboard.press('f')
  await expect(page.getByRole('button', { name: 'Fit 1' })).toBeVisible()
  expect(await name()).not.toBe(first)
  await page.keyboard.press('z')
  await expect(page.getByRole('button', { name: 'To see 24' })).toBeVisible()
  expect(await name()).toBe(first)
  // Heads of estates do not belong, and the others do: 44 of 100 are, so that any sample has enough of both.
  let unfit = 0
  for (let left = 24; left > 0; left--) {
    await expect(page.getByRole('button', { name: `To see ${left}` })).toBeVisible()
    if (/Head of/.test((await card.textContent()) ?? '')) {
      await page.keyboard.press('x')
      await page.keyboard.press('3')
      unfit++
    } else await page.keyboard.press('f')
  }
  await expect(page.getByText('All of the sample were seen.')).toBeVisible()
  expect(unfit).toBeGreaterThan(1)
  await expect(page.getByRole('button', { name: `Don’t belong ${unfit}` })).toBeVisible()
  await expect(page.getByTestId('fit-total')).toContainText(`${24 - unfit}`)
  await expect(page.getByTestId('fit-total')).toContainText(/\d % [\d.]+ % to [\d.]+ %/)
  await expect(page.getByRole('img', { name: /^Chart of the share that fits, person by person: after \d+ it is/ })).toBeVisible()
})

test('what those who do not belong share becomes a line, and a new sample is drawn', async () => {
  const shared = page.getByRole('region', { name: 'What they share' })
  await expect(shared).toContainText(/head/i)
  await accessible(page)
  await shared.getByRole('listitem').filter({ hasText: 'head' }).getByRole('button', { name: 'Make it a line' }).first().click()
  await expect(page.getByText(/changed since this sample was drawn/)).toBeVisible()
  await page.getByRole('button', { name: 'Draw a new sample' }).click()
  await page.getByRole('button', { name: 'Draw sample' }).click()
  await expect(page.getByText(/drawn .* from edition 2/)).toBeVisible()
  // Those who were judged and fit are not judged again.
  await expect(
    page
      .getByText(/from round 1/)
      .or(page.getByRole('button', { name: /^Fit/ }))
      .first(),
  ).toBeVisible()
  await page
    .getByRole('button', { name: 'Back to the round' })
    .or(page.getByRole('link', { name: 'Back to the round' }))
    .click()
  await expect(page.getByRole('listitem').filter({ hasText: 'Check' })).toContainText('seen')
})

test('letters go out on labels: the sheet is chosen, what is wrong is said, and the PDF is downloaded', async () => {
  // With a phone onto the call file, without onto labels: one press.
  await page.getByRole('button', { name: 'Split by channel' }).click()
  const rule = page.getByTestId('rule-one-channel')
  await expect(rule).toContainText('One channel each: phone, else post, else email')
  await expect(rule.getByRole('button', { name: /^post closed/ })).toBeVisible()
  await rule.getByRole('button', { name: 'phone, else post, else email' }).click()
  await page.getByLabel('Cost by post').fill('85')
  await page.getByRole('button', { name: 'Change rule' }).click()
  await expect(page.getByTestId('plan-cost')).toContainText(/£[\d.,]+ for [\d,]+ by post/)
  // Over three weeks: who is contacted when, and what would change it.
  await rule.getByRole('button', { name: 'phone, else post, else email' }).click()
  await page.getByLabel(/^Over/).fill('3')
  await page.getByLabel(/^Callers/).fill('1')
  await page.getByLabel(/^Calls a caller makes/).fill('2')
  await page.getByRole('button', { name: 'Change rule' }).click()
  const weeks = page.getByRole('table', { name: 'Plan by weeks' })
  await expect(weeks.getByRole('row').nth(1)).toContainText('1')
  await page.getByText('What would change the plan').click()
  await expect(page.getByRole('table', { name: 'What would change the plan' })).toContainText('One more caller')
  await accessible(page)
  await page.getByRole('button', { name: /^Release round/ }).click()
  await page
    .getByRole('dialog')
    .or(page.getByRole('alertdialog'))
    .getByRole('button', { name: /^Release/ })
    .click()
  await page.getByRole('button', { name: 'Address labels' }).click({ timeout: 120_000 })
  const dialog = page.getByRole('dialog', { name: 'Address labels' })
  await expect(dialog.getByRole('status')).toHaveText(/\d+ labels on \d+ sheets/)
  await accessible(page)
  await dialog.getByLabel('Begin at label').fill('40')
  await expect(dialog.getByRole('alert')).toContainText('A sheet has 21 labels')
  await expect(dialog.getByRole('button', { name: 'Download labels' })).toBeDisabled()
  await dialog.getByLabel('Begin at label').fill('2')
  const [download] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('link', { name: 'Download labels' }).click()])
  expect(download.suggestedFilename()).toMatch(/^round-\d+-labels\.pdf$/)
  const [align] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('link', { name: 'Download alignment page' }).click()])
  expect(align.suggestedFilename()).toBe('alignment-page.pdf')
  await dialog.getByRole('button', { name: 'Close' }).click()
})
