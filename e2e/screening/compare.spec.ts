import { readFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import { blinded, blindedAgain, digestOf, newSecret, readFile, writeFile } from '@/core/screening/blinded'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext({ acceptDownloads: true })).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

test('suppressions are compared with another organisation by two files each way, and the shared ones are listed', async () => {
  await page.goto('/screening')
  await page.getByRole('main').getByRole('link', { name: 'compared' }).click()
  await expect(page.getByRole('heading', { name: 'Compare suppressions' })).toBeVisible()
  await accessible(page)
  await page.getByLabel('Compare with').fill('Fell Outreach')
  await page.getByRole('button', { name: 'Prepare offer' }).click()
  const comparison = page.getByRole('region', { name: 'Comparison with Fell Outreach' })
  const download = page.waitForEvent('download')
  await comparison.getByRole('link', { name: 'Download the offer' }).click()
  const offer = readFileSync(await (await download).path())
  const { elements } = await readFile(offer)
  expect(await figure(comparison.getByText(/of ours/).textContent())).toBeGreaterThan(0)
  // The other side blinds our offer with a secret of its own, and brings one address that is not ours.
  const secret = await newSecret()
  const upload = async (name: string, file: Uint8Array) =>
    comparison
      .getByLabel('Import the offer or the answer they sent')
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(file) })
  await upload('ours.json', offer)
  await expect(page.getByText(/^This is your own offer/)).toBeVisible()
  const theirs = await blinded(['email:nobody@fell.example'], secret)
  await upload('offer.json', await writeFile({ part: 'offer', elements: theirs }))
  await expect(comparison.getByText('1 of theirs')).toBeVisible()
  await expect(comparison.getByRole('link', { name: 'Download the answer' })).toBeVisible()
  await upload(
    'answer.json',
    await writeFile({ part: 'answer', of: await digestOf(elements), elements: await blindedAgain(elements, secret) }),
  )
  await expect(comparison.getByText('0 are shared.')).toBeVisible()
  await accessible(page)
  await fits(page)
  await page.reload()
  await expect(comparison.getByText('0 are shared.')).toBeVisible()
  await comparison.getByRole('button', { name: 'Delete' }).click()
  await comparison.getByRole('button', { name: 'Delete for good' }).click()
  await expect(page.getByText('No comparisons yet.')).toBeVisible()
})
