import { readFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import { sheetRow, workbook } from '../../tests/formats/files'
import { accessible, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

async function send(name: string, bytes: Buffer) {
  await page.goto('/intake')
  await page.getByLabel('File', { exact: true }).setInputFiles({ name, mimeType: 'application/octet-stream', buffer: bytes })
  await page.getByRole('heading', { name: 'The first rows, as they will be stored' }).waitFor()
}
const first = () =>
  page
    .getByRole('listitem')
    .filter({ has: page.locator('b') })
    .first()

test('a workbook: the sheet and the row of titles are found and can be chosen; what cleaning did is one press away', async () => {
  const path = await workbook([
    {
      name: 'May',
      rows:
        sheetRow(1, ['Open day visitors']) +
        sheetRow(3, ['Name', 'Job title', 'Organisation', 'Email', 'Phone']) +
        sheetRow(4, ['VISITOR, Dr MAUD 🌸', 'Secretary to the head of estates', 'HALLOW CLINIC', 'Maud@Example.org', '0113 496 0123']) +
        sheetRow(5, ['J. B', '', '', 'not an address', '']),
    },
    { name: 'June', rows: sheetRow(1, ['Name', 'Role']) + sheetRow(2, ['June Visitor', 'Bursar']) },
  ])
  await send('visitors.xlsx', readFileSync(path))
  await expect(page.getByText('workbook, sheet “May”, titles in row 2, what is above it left out')).toBeVisible()
  await expect(first()).toContainText('Maud Visitor')
  await first().locator('summary').click()
  await expect(first()).toContainText(
    'emoji taken off, turned round from “Family, Given”, capitals mended, “Dr” set apart, came as VISITOR, Dr MAUD 🌸',
  )
  await expect(page.getByText('the family name is one letter')).toBeVisible()
  await accessible(page)
  await fits(page)
  await page.getByText('workbook, sheet “May”').click()
  await page.getByLabel('Sheet').selectOption('June')
  await expect(first()).toContainText('June Visitor')
  await expect(page.getByLabel('Role holds')).toHaveValue('role')
  await accessible(page)
  await page.getByRole('button', { name: 'Try import first' }).click()
  await expect(page.getByText('All 1 rows were tried, and nothing is stored.')).toBeVisible()
  await expect(page.getByTestId('trial-new')).toContainText('1')
  await accessible(page)
  await fits(page)
  await page.getByRole('button', { name: 'Import file' }).click()
  await expect(page.getByTestId('rows')).toHaveText('1')

  await send('visitors again.xlsx', readFileSync(path))
  await expect(page.getByText(/This very file came in on .*, as visitors\.xlsx/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Import file again' })).toBeVisible()
})

test('rows that are pasted, and a card', async () => {
  await page.goto('/intake')
  await page.getByText('Paste rows instead').click()
  await page.getByLabel('Rows, with or without headings').fill('Name\tTown\tEmail\nPasted Person\tThornmouth\tpasted@example.org\n')
  await accessible(page)
  await page.getByRole('button', { name: 'Show rows' }).click()
  await expect(page.getByText(/columns split by tabs/)).toBeVisible()
  await expect(first()).toContainText('Pasted Person')
  await send(
    'maud.vcf',
    Buffer.from(
      'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Card Holder\r\nN:Holder;Card;;;\r\nTITLE:Head of Estates\r\nTEL;TYPE=cell:+44 7700 900123\r\nEND:VCARD\r\n',
    ),
  )
  await expect(first()).toContainText('Card Holder')
  await expect(page.getByLabel('Job title holds')).toHaveValue('role')
})

test('whoever brought a file in is told that it is in, wherever they are; a person shows the rows as they came', async () => {
  const rows = Array.from({ length: 1500 }, (_, i) => `TOLD${i},Told Person${i},told${i}@example.org`)
  await send('long file.csv', Buffer.from(`Id,Name,Email\n${rows.join('\n')}\n`))
  await page.getByRole('button', { name: 'Import file' }).click()
  await page.getByText(/You can leave this page/).waitFor()
  await page.getByRole('link', { name: 'Directory' }).click()
  await expect(page.getByText('long file.csv is in, all 1,500 rows of it.')).toBeVisible()
  await page.getByRole('button', { name: 'Look' }).click()
  await expect(page.getByTestId('rows')).toHaveText('1,500')
  await page.goto('/directory?find=told7@example.org')
  await page.getByRole('table', { name: 'People' }).getByRole('link').first().click()
  await page.getByText('As it came, in one row').click()
  await expect(page.getByText('long file.csv, row 8')).toBeVisible()
  await expect(page.getByRole('definition').filter({ hasText: 'Told Person7' })).toBeVisible()
  await accessible(page)
})

test('what cannot be read is told where, and nothing is stored', async () => {
  await page.goto('/intake')
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'broken.jsonl', mimeType: 'application/json', buffer: Buffer.from('{"name":"A B"}\n{"name":\n') })
  await expect(page.getByRole('alert').filter({ hasText: 'Line 2 is not JSON' })).toContainText('Nothing was stored')
  await expect(page.getByRole('link', { name: 'broken.jsonl' })).toHaveCount(0)
})

test('a list asks for the level and the function of a role, and unknown stays apart', async () => {
  await page.goto('/lists')
  await page.getByLabel('Name of the new list').fill('Heads and managers of estates')
  await page.getByRole('button', { name: 'New list' }).click()
  await page.getByRole('heading', { name: 'Heads and managers of estates' }).waitFor()
  for (const [kind, values] of [
    ['Level of the role', ['head', 'manager']],
    ['Function of the role', ['estates and facilities']],
  ] as const) {
    await page.getByRole('button', { name: 'Add a line' }).click()
    await page.getByRole('radio', { name: /^Keep/ }).check()
    await page.getByRole('dialog', { name: 'Add a line' }).getByRole('option', { name: kind, exact: true }).click()
    for (const value of values) await page.getByLabel(value, { exact: true }).check()
    await page.getByRole('button', { name: 'Done' }).click()
  }
  await expect(page.getByTestId('line-2')).toContainText('Keep role is at the level of head or manager')
  await expect(page.getByTestId('line-3')).toContainText('Keep role is about estates and facilities')
  await expect(page.getByRole('button', { name: /^Unknown to line 2/ })).toBeVisible()
  await page.getByRole('button', { name: /^Out by line 2/ }).click()
  await expect(
    page
      .getByRole('table', { name: 'People' })
      .getByText(/deputy|officer|trainee|secretary|caretaker/i)
      .first(),
  ).toBeVisible()
  await accessible(page)
})
