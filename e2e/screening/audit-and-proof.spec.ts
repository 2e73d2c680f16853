import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

const LIST = 'Breweries and dairies'

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext({ acceptDownloads: true })).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

test('a policy takes in the rules of a country, with their sources, and a rule is limited to countries by name', async () => {
  await page.goto('/screening/policies')
  await page.getByRole('link', { name: 'Team policy' }).click()
  await page.getByRole('button', { name: 'Add country rules' }).click()
  await expect(page.getByText(/They are a help and no legal advice/)).toBeVisible()
  await page.getByRole('menuitem', { name: /^United States/ }).click()
  await expect(page.getByTestId('rule-calling-hours')).toContainText('Source: 47 CFR 64.1200(c)(1)')
  await expect(page.getByTestId('rule-calling-hours')).toContainText('only phone, only United States')
  await expect(page.getByTestId('rule-register')).toContainText('an established relationship opens a number in United States')
  await page.getByTestId('rule-calling-hours').getByRole('button', { name: '08:00' }).click()
  await page.getByLabel(/^Countries it covers/).fill('USA, Canada, Atlantis')
  await expect(page.getByText('No country is called Atlantis.')).toBeVisible()
  await page.getByRole('button', { name: 'Change rule' }).click()
  await expect(page.getByTestId('rule-calling-hours')).toContainText('only United States and Canada')
  await accessible(page)
  await fits(page)
  await page.getByRole('button', { name: 'Discard changes' }).click()
})

test('the audit is reached from screening, says what needs somebody, and each check opens what it found', async () => {
  await page.goto('/screening')
  await page.getByRole('main').getByRole('link', { name: 'audit' }).click()
  await expect(page.getByRole('heading', { name: 'Audit' })).toBeVisible()
  await expect(page.getByRole('table', { name: 'Checks' })).toContainText('Contacts made in breach')
  await accessible(page)
  await fits(page)
  await page.getByRole('button', { name: 'Do-not-call registers' }).click()
  await expect(page.getByRole('region', { name: 'What was found' })).toContainText('Pellow do-not-call register')
  await page.reload()
  await expect(page.getByRole('region', { name: 'What was found' })).toContainText('Pellow do-not-call register')
  await page.getByLabel('Look back').selectOption('366')
  await expect(page.getByText('What screening did in the last 366 days')).toBeVisible()
})

test('a released round: one contact is checked at its moment, and somebody who opts out then is stopped and named with who has the file', async () => {
  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: LIST }).click()
  await page.getByRole('link', { name: 'Requalify' }).last().click()
  await page
    .getByRole('button', { name: /^Start round/ })
    .or(page.getByRole('main').getByRole('link', { name: 'Go on to screening' }))
    .first()
    .click()
  await expect(page.getByRole('table', { name: 'Screening account' })).toContainText('Direct')
  const direct = page.getByTestId('clear').getByRole('button', { name: /^Clear by direct message/ })
  expect(await figure(direct.textContent())).toBeGreaterThan(0)
  await page.getByRole('button', { name: /^Release round/ }).click()
  await page.getByRole('button', { name: /^Release to/ }).click()
  const email = page.getByRole('link', { name: /^Email file/ })
  await expect(email).toBeVisible()
  const [download] = await Promise.all([page.waitForEvent('download'), email.click()])
  expect(download.suggestedFilename()).toContain('email.csv')
  const url = page.url()
  await page.goto(`${url}?tab=channel&channel=email`)
  const check = page.getByRole('button', { name: /^Check .* before email$/ }).first()
  const name = ((await check.getAttribute('aria-label')) ?? '').replace(/^Check (.*) before email$/, '$1')
  await check.click()
  await expect(page.getByText(/^Clear now by email: \S+@\S+/).first()).toBeVisible()
  await accessible(page)
  const person = page.getByRole('table', { name: 'People' }).getByRole('link', { name, exact: true }).first()
  await page.goto((await person.getAttribute('href')) as string)
  await page.getByText('Suppress this person').click()
  await page.getByLabel('Requested by').last().fill('an answer by email')
  await page.getByRole('button', { name: 'Suppress', exact: true }).last().click()
  await expect(page.getByRole('region', { name: 'Suppressions' })).toContainText('an answer by email')
  const at = page.url()
  await page.goto(url)
  await expect(page.getByText(/suppressed for email since the release and must not be contacted/)).toContainText(
    'downloaded by Ines Okafor',
  )
  await page
    .getByRole('tab', { name: /^Stopped since/ })
    .or(page.getByRole('button', { name: /^Stopped since/ }))
    .first()
    .click()
  await expect(page.getByRole('table', { name: 'People' })).toContainText(name)
  await page.goto('/screening/audit?check=toCarry')
  await expect(page.getByRole('region', { name: 'What was found' })).toContainText(name)
  await page
    .getByRole('button', { name: `The opt-out of ${name} was carried` })
    .first()
    .click()
  await expect(page.getByRole('button', { name: `The opt-out of ${name} was carried` })).toHaveCount(0)
  await page.goto(at)
})

test('why somebody was contacted is a page and a file; what is known of them can be had', async () => {
  await page.getByRole('link', { name: 'Why contacted, why not' }).click()
  await expect(page.getByRole('heading', { name: 'Why contacted, why not' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'The proof' })).toContainText('Suppressions in force that day')
  await accessible(page)
  await fits(page)
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Download as a page to send' }).click()])
  expect(file.suggestedFilename()).toMatch(/^person-\d+-\d{4}-\d\d-\d\d\.html$/)
  await page.goBack()
  const [known] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'as JSON' }).click()])
  expect(known.suggestedFilename()).toMatch(/^person-\d+\.json$/)
  // Only a manager erases.
  await expect(page.getByRole('button', { name: 'Erase on request' })).toHaveCount(0)
})

// After the whole run the manager’s sign-in does not get past its page; to be looked into.
test.fixme('a manager erases somebody, after what goes and what stays was said', async ({ browser }) => {
  const own = await (await browser.newContext()).newPage()
  await signIn(own, 'Marek Dunn')
  await own.goto('/directory?find=tealgarth')
  const found = own.getByRole('table', { name: 'People' }).locator('a[href^="/directory/people/"]')
  await found.first().waitFor()
  const erase = own.getByRole('button', { name: 'Erase on request' })
  // Whoever an earlier test withdrew or merged is not there to be erased.
  for (const href of await found.evaluateAll((links) => links.map((link) => link.getAttribute('href') as string))) {
    await own.goto(href)
    await own.getByRole('heading', { name: 'Ledger' }).waitFor()
    if ((await erase.count()) > 0) break
  }
  await erase.click()
  await expect(own.getByRole('alertdialog')).toContainText('It cannot be undone')
  await own.getByRole('button', { name: 'Erase for good' }).click()
  await expect(own.getByRole('heading', { name: 'Erased person' })).toBeVisible()
  await expect(own.getByRole('region', { name: 'The ledger' })).toContainText('Erased on request')
  await accessible(own)
  await own.close()
})
