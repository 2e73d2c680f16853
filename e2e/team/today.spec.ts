import { expect, type Page, test } from '@playwright/test'
import { accessible, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

const tasks = (of = page) => of.getByRole('region', { name: 'Your tasks' })

test('the day begins with what is one’s move; each line opens the place where it is done', async () => {
  await page.goto('/today')
  await expect(page.getByRole('heading', { name: 'Today' })).toBeVisible()
  await accessible(page)
  await fits(page)
  const waits = page.getByRole('table', { name: 'What waits for you' })
  await expect(waits.getByRole('rowheader', { name: 'Changes that ask something of you' })).toBeVisible()
  await waits.getByRole('link', { name: /^Schools and clinics, north Pellow, due/ }).click()
  await expect(page).toHaveURL(/\/lists\/\d+\/requalify/)
  await page.goBack()
  const mailed = page.getByLabel('By email each morning')
  await mailed.click()
  await expect(mailed).toBeChecked()
  await page.reload()
  await expect(mailed).toBeChecked()
  await mailed.click()
  await expect(mailed).not.toBeChecked()
})

test('a task is made for a colleague, handed back, done, and taken back', async ({ browser }) => {
  await page.goto('/today')
  await tasks().getByRole('button', { name: 'Add a task' }).click()
  const form = page.getByRole('form', { name: 'Add a task' })
  await form.getByLabel('What is to be done').fill('Count the brochures')
  await form.getByLabel('For').selectOption({ label: 'Marek Dunn' })
  await form.getByRole('button', { name: 'Add task' }).click()
  await expect(tasks().getByText('for Marek Dunn')).toBeVisible()

  const marek = await (await browser.newContext()).newPage()
  await signIn(marek, 'Marek Dunn')
  await marek.goto('/today')
  await expect(tasks(marek).getByText('Count the brochures')).toBeVisible()
  await expect(tasks(marek).getByRole('cell', { name: 'Ines Okafor' })).toBeVisible()
  await marek.getByLabel('Hand over: Count the brochures').selectOption({ label: 'Ines Okafor' })
  await expect(tasks(marek).getByText('Count the brochures')).toHaveCount(0)
  await marek.close()

  await page.reload()
  await tasks().getByLabel('Done: Count the brochures').click()
  await expect(tasks().getByText('Count the brochures')).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).first().click()
  await expect(tasks().getByText('Count the brochures')).toBeVisible()
})

test('a list gets a rhythm, says when it is due, and one that is only for following starts no round', async () => {
  await page.goto('/lists')
  await page.getByLabel('Name of the new list').fill('Caretakers we look after')
  await page.getByRole('button', { name: 'New list' }).click()
  await expect(page.getByRole('heading', { name: 'Caretakers we look after' })).toBeVisible()
  const rhythm = async (choose: string) => {
    await page.getByRole('button', { name: 'More for this list' }).click()
    await page.getByRole('menuitem', { name: 'When it is due…' }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Rhythm').selectOption({ label: choose })
    await accessible(page)
    return dialog
  }
  const dialog = await rhythm('on days of the week')
  await dialog.getByRole('button', { name: 'Save rhythm' }).click()
  await expect(dialog.getByRole('alert')).toContainText('Choose at least one day')
  await dialog.getByLabel('Thursday').check()
  await dialog.getByRole('button', { name: 'Save rhythm' }).click()
  await expect(page.getByText(/due .*, every Thursday/)).toBeVisible()
  const again = await rhythm('never: only for following its people')
  await again.getByRole('button', { name: 'Save rhythm' }).click()
  await expect(page.getByText('only for following', { exact: false })).toBeVisible()
})

test('the movement of people is an account, and each figure shows its people', async () => {
  await page.goto('/changes')
  await page.getByRole('link', { name: 'Movement of people' }).click()
  await expect(page.getByRole('heading', { name: 'Movement of people' })).toBeVisible()
  await accessible(page)
  await fits(page)
  await page.getByRole('button', { name: /^Known there at the opening: / }).click()
  await expect(page.getByRole('heading', { name: /^Known there at the opening/ })).toBeVisible()
  await expect(page.getByRole('region', { name: 'The people of one figure' }).getByRole('listitem').first()).toBeVisible()
})
