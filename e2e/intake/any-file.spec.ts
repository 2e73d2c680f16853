import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

async function send(name: string, csv: string) {
  await page.goto('/intake')
  await page.getByLabel('File', { exact: true }).setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(csv) })
  await page.getByRole('heading', { name: 'The first rows, as they will be stored' }).waitFor()
}
const stored = (name: string) => page.getByRole('listitem').filter({ hasText: name })

const CARDS =
  'Who,Job,Firm,Garden,Via\n"Orwell, Petronella",Estates lead,Orwell Yards,Y,cell\n"Orwel, Petronela",Estates lead,Orwell Yards,N,cell\n"Orwell, P",,Orwell Yards,,cell\n'

test('a column is cut, reworded and declared as a field of our own, and the mapping is saved for the team', async () => {
  await send('any cards.csv', CARDS)
  await page
    .getByRole('row')
    .filter({ has: page.getByLabel('Who holds') })
    .getByText('cut it')
    .click()
  await page.getByLabel('Cut Who at').selectOption(',')
  await page.getByRole('button', { name: 'Cut Who' }).click()
  await page.getByLabel('Who, part 1 holds').selectOption('family')
  await page.getByLabel('Who, the rest holds').selectOption('given')
  await page.getByLabel('Job holds').selectOption('role')
  await page.getByLabel('Firm holds').selectOption('organisation')
  await expect(stored('Petronella Orwell').first()).toContainText('Estates lead, Orwell Yards')

  await page.getByLabel('Via holds').selectOption('tags')
  await page
    .getByRole('row')
    .filter({ has: page.getByLabel('Via holds') })
    .getByText('reword')
    .click()
  await page.getByLabel('cell is taken to say').fill('met by phone')
  await expect(stored('Petronella Orwell').first()).toContainText('met by phone')

  await page.getByLabel('Garden holds').selectOption('declare')
  await expect(page.getByLabel('It holds')).toHaveValue('yes or no')
  await accessible(page)
  await page.getByRole('button', { name: 'Declare it' }).click()
  await expect(page.getByLabel('Garden holds')).toHaveValue(/^custom:/)

  await page.getByText('Saved mappings').click()
  await page.getByLabel('Save this mapping for the team as').fill('Fair cards')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('Fair cards is saved.')).toBeVisible()
  await accessible(page)
  await fits(page)
})

test('rows are matched with each other by likeness; the one in doubt is decided with one key', async () => {
  await page.getByRole('button', { name: 'Try import first' }).click()
  await expect(page.getByTestId('trial-rows')).toHaveText('3')
  await expect(page.getByTestId('trial-new')).toContainText('1')
  await page.getByRole('button', { name: 'Import file' }).click()
  await expect(page.getByTestId('rows')).toHaveText('3')
  await expect.poll(() => figure(page.getByTestId('outcome-new').locator('.balance').textContent())).toBe(1)
  const doubts = await figure(page.getByTestId('outcome-in doubt').locator('.balance').textContent())
  expect(doubts).toBeGreaterThan(0)
  await page.getByRole('button', { name: /^in doubt rows/ }).click()
  await expect(page.getByRole('table', { name: 'The row and a record' })).toContainText('Petronella Orwell')
  await accessible(page)
  await fits(page)
  for (let left = doubts; left > 0; left--) {
    await expect(page.getByRole('button', { name: 'The same S' })).toBeEnabled()
    await page.keyboard.press('s')
    await expect.poll(() => figure(page.getByTestId('outcome-in doubt').locator('.balance').textContent())).toBe(left - 1)
  }
})

test('the saved mapping fits a file with the same titles in another order, and tells what is missing', async () => {
  await send('other cards.csv', 'Garden,Who,Firm\nyes,"Fothering, Abel",Fothering Sheds\n')
  await page.getByText(/^Saved mappings/).click()
  await page.getByRole('button', { name: 'Take Fair cards' }).click()
  await expect(page.getByText('Fair cards was taken; this file has no Job, Via.')).toBeVisible()
  await expect(stored('Abel Fothering')).toContainText('Fothering Sheds')
  await page.getByRole('button', { name: 'Import file' }).click()
  await expect(page.getByTestId('rows')).toHaveText('1')
})

test('the field of our own is asked about in a list and mended on the page of a person', async () => {
  await page.goto('/lists')
  await page.getByLabel('Name of the new list').fill('Gardeners')
  await page.getByRole('button', { name: 'New list' }).click()
  await expect(page.getByRole('heading', { name: 'Gardeners' })).toBeVisible()
  await page.getByRole('button', { name: 'Add a line' }).click()
  await page.getByRole('radio', { name: /^Keep/ }).check()
  await page.getByRole('dialog', { name: 'Add a line' }).getByRole('option', { name: 'A field of our own', exact: true }).click()
  await page.getByRole('combobox', { name: /^Field/ }).selectOption({ label: 'Garden' })
  await page.getByLabel('yes', { exact: true }).check()
  await accessible(page)
  await page.getByRole('button', { name: 'Done' }).click()
  const table = page.getByRole('table', { name: 'People' })
  await expect(table.getByRole('link', { name: 'Abel Fothering' })).toBeVisible()
  await table.getByRole('link', { name: 'Abel Fothering' }).click()
  await page.getByRole('link', { name: 'Open the whole record' }).click()
  await page.getByText('Fields of our own').click()
  await page.getByLabel('Garden').selectOption('no')
  await page.getByRole('button', { name: 'Save changes' }).click()
  await expect(page.getByText('Garden: yes → no').first()).toBeVisible()
  await accessible(page)
})

test('GeoJSON whose coordinates changed places is offered to be swapped, and its premises are found', async () => {
  const feature = (name: string, lat: number, lon: number) => ({
    type: 'Feature',
    geometry: { type: 'Point', coordinates: [lat, lon] },
    properties: { name, kind: 'barn', 'roof area': 820, owner: 'Fothering Sheds' },
  })
  await page.goto('/intake')
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'barns.geojson',
    mimeType: 'application/geo+json',
    buffer: Buffer.from(
      JSON.stringify({
        type: 'FeatureCollection',
        features: [feature('Fothering Barn', 55.21, 1.31), feature('Orwell Barn', 55.22, 1.32)],
      }),
    ),
  })
  await expect(page.getByText('The coordinates look as if they had changed places')).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Swap them' }).click()
  await expect(stored('Fothering Barn')).toContainText('55.21, 1.31')
  await page.getByRole('button', { name: 'Import file' }).click()
  await expect(page.getByTestId('rows')).toHaveText('2')
  await page.goto('/directory?show=premises&find=fothering')
  const table = page.getByRole('table', { name: 'Premises' })
  await expect(table.getByRole('row')).toHaveCount(3)
  await accessible(page)
  await table.getByRole('link', { name: 'Fothering Barn' }).click()
  await expect(page.getByText('820 m²')).toBeVisible()
  await expect(page.getByText('55.21000, 1.31000')).toBeVisible()
  await accessible(page)
  await fits(page)
})
