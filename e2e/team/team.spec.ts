import { expect, type Page, test } from '@playwright/test'
import { accessible, fits, signIn } from '../support/app'

/** People come, change and go; what holds of them holds at once. */

test.describe.configure({ mode: 'serial' })

let marek: Page
let vera: Page
let password = ''
const EMAIL = 'vera.lind@team.example'
const shown = async () => ((await marek.getByRole('status').locator('code').textContent()) ?? '').trim()

test.beforeAll(async ({ browser }) => {
  marek = await (await browser.newContext()).newPage()
  vera = await (await browser.newContext()).newPage()
  await signIn(marek, 'Marek Dunn')
})
test.afterAll(async () => {
  await marek.close()
  await vera.close()
})

async function comeIn(page: Page, word: string) {
  await page.goto('/sign-in')
  await page.getByLabel('Email').fill(EMAIL)
  await page.getByLabel('Password').fill(word)
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
}

test('a manager adds somebody, who signs in and changes the password', async () => {
  await marek.getByRole('button', { name: 'Signed in as Marek Dunn' }).click()
  await marek.getByRole('menuitem', { name: 'Team and password' }).click()
  await marek.getByRole('heading', { name: 'Team', exact: true }).waitFor()
  await accessible(marek)
  await fits(marek)
  await marek.getByRole('button', { name: 'Add person' }).click()
  await marek.getByLabel('Name', { exact: true }).fill('Vera Lind')
  await marek.getByLabel('Email').fill(EMAIL)
  await accessible(marek)
  await marek.getByRole('region', { name: 'Add person' }).getByRole('button', { name: 'Add person' }).click()
  await expect(marek.getByRole('status')).toContainText(`Vera Lind can sign in as ${EMAIL}.`)
  password = await shown()
  expect(password.length).toBeGreaterThan(10)

  await comeIn(vera, password)
  await vera.waitForURL('**/today')
  await vera.goto('/team')
  await expect(vera.getByRole('button', { name: 'Add person' })).toHaveCount(0)
  await vera.getByLabel('Current password').fill('something-else-entirely')
  await vera.getByLabel(/^New password/).fill('a-word-of-my-own')
  await vera.getByRole('button', { name: 'Change password' }).click()
  await expect(vera.getByRole('main').getByRole('alert')).toHaveText('The current password is wrong. Nothing was changed.')
  await vera.getByLabel('Current password').fill(password)
  await vera.getByLabel(/^New password/).fill('a-word-of-my-own')
  await vera.getByRole('button', { name: 'Change password' }).click()
  await expect(vera.getByRole('status')).toContainText('Your password is changed')
  await vera.goto('/lists')
  await expect(vera.getByRole('button', { name: 'Signed in as Vera Lind' })).toBeVisible()
})

test('another post counts from the next press on', async () => {
  await vera.goto('/intake')
  await expect(vera.locator('input[type=file]')).toHaveCount(0)
  await marek.getByRole('button', { name: 'Edit Vera Lind' }).click()
  await marek.getByRole('radio', { name: /^coordinator/ }).check()
  await marek.getByRole('button', { name: 'Save changes' }).click()
  await expect(marek.getByRole('status')).toContainText('Saved the changes to Vera Lind.')
  await vera.goto('/intake')
  await expect(vera.locator('input[type=file]').first()).toBeAttached()
})

test('who is removed has no session any more, is told no more news, and does not come in again', async () => {
  await vera.goto('/lists')
  const stream = vera.evaluate(() => fetch('/api/news').then((answer) => answer.text()))
  await vera.waitForTimeout(1000)
  await marek.getByRole('button', { name: 'Remove Vera Lind' }).click()
  await marek.getByRole('button', { name: 'Remove Vera Lind' }).last().click()
  await expect(marek.getByRole('status')).toContainText('Removed Vera Lind.')
  // The stream of news that was open ends by itself, and asking for anything is refused.
  expect(await stream).toContain(': listening')
  expect((await vera.request.get('/api/hand')).status()).toBe(401)
  await comeIn(vera, 'a-word-of-my-own')
  await expect(vera.getByRole('alert').first()).toContainText('do not match')
})

test('who was removed by mistake is taken back, and signs in with a new password', async () => {
  await marek.getByText(/^Removed people/).click()
  await accessible(marek)
  await marek.getByRole('button', { name: 'Restore Vera Lind' }).click()
  await expect(marek.getByRole('status')).toContainText('Vera Lind can sign in again.')
  await comeIn(vera, await shown())
  await vera.waitForURL('**/today')
  await marek.getByRole('button', { name: 'Remove Vera Lind' }).click()
  await marek.getByRole('button', { name: 'Remove Vera Lind' }).last().click()
  await expect(marek.getByRole('status')).toContainText('Removed Vera Lind.')
})

test('what somebody asks is refused from another site, and kept by nobody on the way', async () => {
  const at = process.env.E2E_URL as string
  const ask = (headers: Record<string, string>) => marek.request.post('/api/people', { data: { find: 'a' }, headers })
  // A browser says itself where a request comes from; a client that does not has to name our origin.
  expect((await ask({})).status()).toBe(403)
  expect((await ask({ origin: 'https://elsewhere.example' })).status()).toBe(403)
  expect((await ask({ origin: 'null' })).status()).toBe(403)
  expect((await ask({ origin: at, 'sec-fetch-site': 'cross-site' })).status()).toBe(403)
  const good = await ask({ origin: at })
  expect(good.status()).toBe(200)
  expect(good.headers()['cache-control']).toBe('no-store')
  expect((await marek.request.get('/api/hand')).headers()['cache-control']).toBe('no-store')
})
