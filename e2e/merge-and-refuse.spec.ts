import { expect, type Page, test } from '@playwright/test'
import { accessible, signIn } from './support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

test('two records are merged, with what is taken over told before', async () => {
  await page.goto('/intake')
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'twice.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Name,Role,Email\nOttoline Twice,,ottoline.twice@example.org\nOttoline Twyce,Head gardener,o.twyce@example.com\n'),
  })
  await page.getByRole('button', { name: 'Import file' }).click()
  await expect(page.getByTestId('rows')).toHaveText('2', { timeout: 30_000 })
  await page.getByRole('link', { name: 'Ottoline Twice' }).click()
  await page.getByText('Merge another record into this one').click()
  await page.getByLabel('Find the other record by name').fill('twyce')
  await page.getByRole('button', { name: /Ottoline Twyce/ }).click()
  await expect(page.getByText('Head gardener is taken over')).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Merge the two' }).click()
  await expect(page.getByText('Merged: took in Ottoline Twyce')).toBeVisible()
  await expect(page.getByText('o.twyce@example.com').first()).toBeVisible()
  await page.getByRole('link', { name: 'Ottoline Twyce' }).click()
  await expect(page.getByText(/^Merged into/)).toBeVisible()
  await accessible(page)
})

test('a meeting is recorded as a contact; it is no channel', async () => {
  await page.goto('/directory?find=ottoline+twice')
  await page.getByRole('link', { name: 'Ottoline Twice' }).click()
  await page.getByRole('combobox', { name: /^How(?! well)/ }).selectOption('met')
  await page.getByLabel('Result').selectOption('spoke')
  await page.getByRole('button', { name: 'Record' }).click()
  await expect(page.getByRole('region', { name: 'The ledger' }).getByText('Met · spoke')).toBeVisible()
})

test('files that are none are refused with a sentence, and nothing is stored', async () => {
  const said = async (name: string, buffer: Buffer) => {
    await page.goto('/intake')
    await page.getByLabel('File', { exact: true }).setInputFiles({ name, mimeType: 'text/csv', buffer })
    return page.getByRole('alert').filter({ hasText: /\w/ })
  }
  await expect(await said('empty.csv', Buffer.alloc(0))).toContainText('empty')
  await expect(await said('picture.csv', Buffer.from('89504e470d0a1a0a0000000d', 'hex'))).toContainText('The file is a picture, not text')
  await expect(
    await said('quote.csv', Buffer.from('Name,Email\nMaud,maud@example.org\n"Joss,joss@example.org\nAnn,ann@example.org\n')),
  ).toContainText('Row 2, column 1 (Name): a quote opens there and never closes')
})
