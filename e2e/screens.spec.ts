import { expect, test } from '@playwright/test'
import { pellowCounty } from '../demo/county'
import { accessible, fits, signIn } from './support/app'

test.describe('signing in', () => {
  test('every page, action and route asks for a session', async ({ page, request }) => {
    for (const path of [
      '/lists',
      '/lists/1',
      '/rounds/1',
      '/directory',
      '/directory/people/1',
      '/intake',
      '/intake/1',
      '/screening',
      '/lists/1/requalify',
    ]) {
      await page.goto(path)
      await expect(page).toHaveURL(/sign-in/)
    }
    for (const path of [
      '/api/list-account',
      '/api/people',
      '/api/organisations',
      '/api/suppressions',
      '/api/rounds/1',
      '/api/requalify/1',
      '/api/batches',
      '/api/batches/1/rows',
      '/api/batches/1/preview',
    ]) {
      expect((await request.post(path, { data: {}, headers: { origin: process.env.E2E_URL as string } })).status(), path).toBe(401)
    }
    for (const path of ['/api/batches/1', '/rounds/1/files/email', '/rounds/1/files/about', '/intake/1/rows'])
      expect((await request.get(path)).status(), path).toBe(401)
    const forged = await request.post('/api/people', {
      data: {},
      headers: { origin: process.env.E2E_URL as string, cookie: 'better-auth.session_token=forged.token' },
    })
    expect(forged.status()).toBe(401)
  })

  test('a wrong password is told, a right one lets in, signing out ends it', async ({ page }) => {
    await page.goto('/sign-in')
    await accessible(page)
    await page.getByLabel('Email').fill('ines.okafor@brackenfold.example')
    await page.getByLabel('Password').fill('wrong')
    await page.getByRole('button', { name: 'Sign in' }).click()
    await expect(page.getByRole('alert').filter({ hasText: 'do not match' })).toBeVisible()
    await page.getByLabel('Email').fill('ines.okafor@brackenfold.example')
    await page.getByLabel('Password').fill('rain-on-the-roof')
    await page.getByRole('button', { name: 'Sign in' }).click()
    await page.waitForURL('**/today')
    await page.getByRole('button', { name: 'Signed in as Ines Okafor' }).click()
    await page.getByRole('menuitem', { name: 'Sign out' }).click()
    await expect(page).toHaveURL(/sign-in/)
    await page.goto('/lists')
    await expect(page).toHaveURL(/sign-in/)
  })
})

test('what is private to somebody else, or forged, is not there', async ({ page }) => {
  await signIn(page)
  await page.goto('/lists')
  await expect(page.getByRole('heading', { name: 'Lists', exact: true })).toBeVisible()
  await expect(page.getByText('Owners nobody has called')).toHaveCount(0)
  await page.context().clearCookies()
  await signIn(page, 'Tam Reyes')
  await page.goto('/lists')
  await page.getByRole('link', { name: 'Owners nobody has called' }).click()
  await expect(page.getByRole('heading', { name: 'Owners nobody has called' })).toBeVisible()
  const url = page.url()
  await page.context().clearCookies()
  await signIn(page, 'Beth Hallam')
  for (const path of [url, '/lists/999999', '/rounds/999999', '/rounds/1e9', '/directory/people/0', '/intake/abc']) {
    await page.goto(path)
    await expect(page.getByRole('heading', { name: 'There is nothing here' })).toBeVisible()
  }
})

test('a caller sees a round and cannot release it or bring in files', async ({ page }) => {
  await signIn(page, 'Tam Reyes')
  await page.goto('/intake')
  await expect(page.getByText('Coordinators and managers import files.')).toBeVisible()
  const refused = await page.evaluate(async () => {
    return (await fetch('/api/batches?name=a.csv', { method: 'POST', body: 'Name\nA B\n' })).status
  })
  expect(refused).toBe(403)
})

test('directory: find as you type, sort, a record with its ledger; a contact is recorded by hand', async ({ page }) => {
  await signIn(page, 'Tam Reyes')
  await page.keyboard.press('/')
  await page.keyboard.type('okafor')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('link', { name: /Okafor$/ }).first()).toBeVisible()
  const { given, family } = pellowCounty().people[4321]
  const name = `${given} ${family}`
  await page.getByLabel('Find', { exact: true }).fill(`${family} ${given}`.toLowerCase())
  await expect(page.getByRole('link', { name }).first()).toBeVisible()
  await page.getByLabel('Sort by').selectOption('last contact')
  await accessible(page)
  await fits(page)
  await page.getByRole('link', { name }).first().click()
  await expect(page.getByRole('heading', { name })).toBeVisible()
  await page.getByLabel('Result').selectOption('meeting set')
  await page.getByRole('region', { name: 'The person' }).getByLabel('Note').first().fill('<b>Tuesday</b> at ten')
  await page.getByRole('button', { name: 'Record' }).click()
  const ledger = page.getByRole('region', { name: 'The ledger' })
  await expect(ledger.getByText('Phone · meeting set')).toBeVisible()
  await expect(ledger.getByText('<b>Tuesday</b> at ten')).toBeVisible()
  await accessible(page)
  await fits(page)
})

test('a table of people draws those in view and not everybody, at any width, and scrolls to others', async ({ page }) => {
  await signIn(page, 'Tam Reyes')
  await page.goto('/lists')
  const drawn = () => page.getByRole('table', { name: 'People' }).locator('tbody tr').count()
  const listed = await page.getByRole('link', { name: 'Schools and clinics, north Pellow' }).first().getAttribute('href')
  for (const address of ['/directory', listed as string]) {
    for (const width of [1280, 800]) {
      await page.setViewportSize({ width, height: 800 })
      await page.goto(address)
      await expect(page.getByRole('table', { name: 'People' }).getByRole('link').first()).toBeVisible()
      await page.waitForTimeout(500)
      expect(await drawn(), `${address} at ${width}`).toBeLessThan(80)
      const before = await page.getByRole('table', { name: 'People' }).getByRole('link').first().textContent()
      await page.getByRole('table', { name: 'People' }).evaluate((table) => table.closest('.leaf')?.scrollBy(0, 6000))
      await expect(page.getByRole('table', { name: 'People' }).getByRole('link').first()).not.toHaveText(before as string)
      await fits(page)
      await accessible(page)
    }
  }
})

test('organisations: found, sorted, opened', async ({ page }) => {
  await signIn(page)
  await page.goto('/directory?show=organisations')
  await page.getByLabel('Find', { exact: true }).fill('brewery')
  await page.getByLabel('Sort by').selectOption('people')
  const first = page.getByRole('link', { name: /Brewery$/ }).first()
  await expect(first).toBeVisible()
  await accessible(page)
  await first.click()
  await expect(page.getByRole('heading', { name: 'People', exact: true })).toBeVisible()
  await accessible(page)
})

test('suppressions: what stands, entered by hand, and seen on the record', async ({ page }) => {
  await signIn(page)
  await page.goto('/screening')
  await expect(page.getByRole('table', { name: 'Active suppressions' })).toContainText('Do-not-call register')
  await accessible(page)
  await fits(page)
  await page.getByLabel('Email, phone, or a domain such as @example.org').fill('not an address')
  await page.getByLabel('Requested by').first().fill('a letter')
  await page.getByRole('button', { name: 'Suppress', exact: true }).first().click()
  await expect(page.getByText('is neither an email address, nor a phone number, nor a domain')).toBeVisible()
  await page.getByLabel('Email, phone, or a domain such as @example.org').fill('somebody.new@example.org')
  await page.getByLabel('Requested by').first().fill('a letter')
  await page.getByRole('button', { name: 'Suppress', exact: true }).first().click()
  await expect(page.getByText('Saved in the ledger.')).toBeVisible()
  await page.getByLabel(/^Find by name, organisation/).fill('somebody.new@example.org')
  await expect(page.getByText('s…@example.org')).toBeVisible()
})

test('lists and rounds: the indexes fit and are accessible, and leaves stack when narrow', async ({ page }) => {
  await signIn(page)
  await accessible(page)
  await fits(page)
  await page.goto('/intake')
  await accessible(page)
  await page.setViewportSize({ width: 880, height: 800 })
  for (const path of ['/today', '/changes', '/lists', '/lists/2', '/rounds', '/directory', '/screening', '/intake']) {
    await page.goto(path)
    await expect(page.getByRole('main')).toBeVisible()
    await fits(page)
  }
})

test('the keys are shown by ?, the words are explained behind it, and another’s list can be copied', async ({ page }) => {
  await signIn(page)
  await page.keyboard.press('?')
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible()
  await page.getByRole('link', { name: 'What the words mean' }).click()
  await expect(page.getByRole('heading', { name: 'Words', exact: true })).toBeVisible()
  await expect(page.getByRole('term').filter({ hasText: 'Deciding line' })).toBeVisible()
  await accessible(page)
  await fits(page)
  await page.goto('/lists')
  await page.getByRole('link', { name: 'Estates leads at housing bodies' }).click()
  await page.getByRole('button', { name: 'More for this list' }).click()
  await expect(page.getByRole('menuitem', { name: 'Delete' })).toHaveCount(0)
  await page.getByRole('menuitem', { name: 'Copy as my own' }).click()
  await expect(page.getByRole('heading', { name: 'Estates leads at housing bodies, copy' })).toBeVisible()
  await page.getByRole('button', { name: 'More for this list' }).click()
  await page.getByRole('menuitem', { name: 'Delete' }).click()
  await page.waitForURL('**/lists?deleted=*')
  const copy = page.getByRole('link', { name: 'Estates leads at housing bodies, copy' })
  await expect(copy).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(copy).toBeVisible()
})

test('health tells of the database, the worker and the engine', async ({ request }) => {
  expect(await (await request.get('/health')).json()).toEqual({ ok: true, database: 'up', worker: 'up', engine: 'up' })
})
