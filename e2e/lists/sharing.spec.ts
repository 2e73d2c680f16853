import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

let ines: Page
let tam: Page
test.beforeAll(async ({ browser }) => {
  ines = await (await browser.newContext()).newPage()
  tam = await (await browser.newContext()).newPage()
  await signIn(ines)
  await signIn(tam, 'Tam Reyes')
})
test.afterAll(async () => {
  await ines.close()
  await tam.close()
})

const NAME = 'Shared step by step'
const balance = (page: Page) => figure(page.getByTestId('balance').textContent())
const line = (page: Page, n: number) => page.getByTestId(`line-${n}`)
const menu = async (page: Page, item: string | RegExp) => {
  await page.getByRole('button', { name: 'More for this list' }).click()
  await page.getByRole('menuitem', { name: item }).click()
}

async function reachLine(page: Page, verb: string) {
  await page.getByRole('button', { name: 'Add a line' }).click()
  await page.getByRole('radio', { name: verb }).check()
  await page
    .getByRole('dialog', { name: 'Add a line' })
    .getByRole('option', { name: 'Has a usable address or number', exact: true })
    .click()
  await page.getByRole('dialog', { name: 'Change the line' }).waitFor()
  await page.getByRole('button', { name: 'Done' }).click()
}

test('its owner says who may do what; whoever may only look cannot save, use or delete it', async () => {
  await ines.getByLabel('Name of the new list').fill(NAME)
  await ines.getByRole('button', { name: 'New list' }).click()
  await ines.getByRole('heading', { name: NAME }).waitFor()
  await menu(ines, /^Share it/)
  const dialog = ines.getByRole('dialog', { name: 'Who sees this list' })
  await dialog.getByLabel('What Everybody of the team may do').selectOption({ label: 'nothing: private' })
  await dialog.getByLabel('Named people').selectOption({ label: 'Tam Reyes' })
  await dialog.getByLabel('What Tam Reyes may do').selectOption({ label: 'may see it' })
  await accessible(ines)
  await dialog.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(ines.getByText('Shared by you with one person')).toBeVisible()

  await tam.goto('/lists')
  await expect(tam.getByRole('row', { name: new RegExp(NAME) })).toContainText('you may look')
  await tam.getByRole('link', { name: NAME }).click()
  await expect(tam.getByText('you may look and propose')).toBeVisible()
  await expect(tam.getByRole('button', { name: /^Save edition/ })).toHaveCount(0)
  await expect(tam.getByRole('button', { name: /^Start round/ })).toHaveCount(0)
  await tam.getByRole('button', { name: 'More for this list' }).click()
  await expect(tam.getByRole('menuitem', { name: /Copy|Delete|Archive|Rename/ })).toHaveCount(0)
  await tam.keyboard.press('Escape')
})

test('each sees that the other has it open, and whether they work on it', async () => {
  await expect(ines.getByTestId('readers')).toHaveText('Also here: Tam Reyes')
  await expect(tam.getByTestId('readers')).toHaveText('Also here: Ines Okafor')
  await reachLine(tam, 'Keep')
  await expect(ines.getByTestId('readers')).toHaveText('Also here: Tam Reyes (has lines not saved)')
})

test('a line is proposed to its owner, who sees what it would do, and takes it', async () => {
  await expect.poll(() => balance(tam)).toBeGreaterThan(0)
  const wished = await balance(tam)
  await tam.getByLabel('Why it is proposed').fill('only whom we can write to')
  await tam.getByRole('button', { name: 'Propose changes to Ines' }).click()
  await expect(tam.getByText('Proposed to Ines Okafor.')).toBeVisible()
  await expect(tam.getByRole('region', { name: 'Proposed by Tam Reyes' })).toContainText('You propose')
  await expect(line(tam, 2)).toHaveCount(0)

  const waiting = ines.getByRole('region', { name: 'Proposed by Tam Reyes' })
  await expect(waiting).toContainText('only whom we can write to')
  await expect(waiting).toContainText('Added Keep has a usable email address')
  await expect(waiting.getByTestId('proposal-effect')).toContainText('with it')
  const [now, left, , then] =
    ((await waiting.getByTestId('proposal-effect').textContent()) ?? '').match(/\d[\d,]*/g)?.map((n) => Number(n.replaceAll(',', ''))) ?? []
  expect(now - left).toBe(then)
  expect(then).toBe(wished)
  await accessible(ines)
  await fits(ines)
  await waiting.getByRole('button', { name: /^Would leave: / }).click()
  await expect(ines.getByRole('button', { name: /^Would leave [\d,]+$/ })).toHaveAttribute('aria-pressed', 'true')
  await expect(ines.getByRole('table', { name: 'People' })).toContainText('of what is proposed')
  await expect(ines.getByRole('table', { name: 'People' })).toHaveAttribute('aria-rowcount', String(left + 1))
  await accessible(ines)
  await ines.getByRole('button', { name: /^Would stay/ }).click()
  await expect(ines.getByRole('table', { name: 'People' })).toHaveAttribute('aria-rowcount', String(then + 1))
  await ines.getByRole('button', { name: 'Back to the list' }).click()
  await expect(ines.getByRole('button', { name: /^On the list/ })).toBeVisible()
  await waiting.getByRole('button', { name: 'Take it as edition 2' }).click()
  await expect(waiting).toHaveCount(0)
  await expect(line(ines, 2)).toContainText('Keep has a usable email address')
  await expect.poll(() => balance(ines)).toBe(wished)

  await expect(tam.getByText(/Ines Okafor took what you proposed on .+: it is in edition 2\./)).toBeVisible()
  await tam.getByRole('button', { name: 'Read', exact: true }).click()
  await expect(tam.getByText(/took what you proposed on/)).toHaveCount(0)
})

test('what is not taken is told with why', async () => {
  await reachLine(tam, 'Drop')
  await tam.getByRole('button', { name: 'Propose changes to Ines' }).click()
  const waiting = ines.getByRole('region', { name: 'Proposed by Tam Reyes' })
  await waiting.getByRole('button', { name: 'Decline' }).click()
  await waiting.getByLabel('Why it is declined').fill('then nobody is left')
  await waiting.getByRole('button', { name: 'Decline' }).click()
  await expect(tam.getByText(/Ines Okafor declined what you proposed on .+: then nobody is left/)).toBeVisible()
})

test('lines are chosen from a proposal one by one, beside one’s own', async () => {
  await reachLine(tam, 'Drop')
  // Until the line is kept as a draft: what this page kept before comes back all the same when the proposal is taken back.
  await expect(ines.getByTestId('readers')).toHaveText('Also here: Tam Reyes (has lines not saved)')
  await tam.getByRole('button', { name: 'Propose changes to Ines' }).click()
  await ines.getByRole('region', { name: 'Proposed by Tam Reyes' }).getByRole('button', { name: 'Choose line by line' }).click()
  await ines.getByRole('button', { name: 'Bring 1 over and go on' }).click()
  await expect(line(ines, 3)).toContainText('Drop has a usable email address')
  await expect(line(ines, 3).getByText('This line leaves nobody.')).toBeVisible()
  await ines.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(line(ines, 3)).toHaveCount(0)
  await tam.getByRole('button', { name: 'Take it back' }).click()
  await expect(ines.getByRole('region', { name: 'Proposed by Tam Reyes' })).toHaveCount(0)
  await expect(line(tam, 3)).toContainText('Drop has a usable email address')
  await tam.getByRole('button', { name: 'Undo', exact: true }).click()
})

test('a line is commented on, answered and settled, also by keyboard', async () => {
  await tam.getByRole('button', { name: 'More for line 2' }).focus()
  await tam.keyboard.press('Enter')
  await tam.getByRole('menuitem', { name: 'Comment on it' }).press('Enter')
  await tam.getByLabel('Your comment').fill('Letters would do as well.')
  await tam.getByRole('button', { name: 'Add comment' }).click()
  await expect(tam.getByRole('button', { name: '1 comment on line 2' })).toBeVisible()
  await tam.keyboard.press('Escape')

  await ines.getByRole('button', { name: '1 comment on line 2' }).click()
  const thread = ines.getByRole('dialog', { name: 'Comments on line 2' })
  await expect(thread).toContainText('Letters would do as well.')
  await accessible(ines)
  await thread.getByLabel('Your comment').fill('They cost too much.')
  await thread.getByRole('button', { name: 'Add comment' }).click()
  await expect(thread).toContainText('They cost too much.')
  await expect(tam.getByRole('button', { name: '2 comments on line 2' })).toBeVisible()
  await thread.getByRole('button', { name: 'Settled' }).click()
  await expect(ines.getByRole('button', { name: 'Settled comments on line 2' })).toBeVisible()
  // A line that goes takes nothing of what was said with it.
  await ines.getByRole('button', { name: 'More for line 2' }).click()
  await ines.getByRole('menuitem', { name: 'Remove' }).click()
  await ines.getByRole('button', { name: 'Save edition 3' }).click()
  await ines.getByText('2 comments on lines that are gone').click()
  await expect(ines.getByText('Letters would do as well.')).toBeVisible()
  await ines.getByRole('link', { name: 'Compare editions' }).click()
  await ines.getByRole('button', { name: 'Go back to edition 2' }).click()
  await expect(line(ines, 2)).toContainText('Keep has a usable email address')
  await expect(ines.getByRole('button', { name: 'Settled comments on line 2' })).toBeVisible()
})

test('a name is made of its lines', async () => {
  await menu(ines, /^Rename/)
  const dialog = ines.getByRole('dialog', { name: 'Rename the list' })
  await dialog.getByRole('button', { name: 'With email address' }).click()
  await expect(dialog.getByLabel('Name')).toHaveValue('With email address')
  await accessible(ines)
  await dialog.getByLabel('Name').fill('Whom we can write to')
  await dialog.getByRole('button', { name: 'Rename' }).click()
  await expect(ines.getByRole('heading', { name: 'Whom we can write to' })).toBeVisible()
})

test('handed over, it is the other’s to decide on', async () => {
  await menu(ines, /^Share it/)
  await ines.getByLabel('Hand over to').selectOption({ label: 'Tam Reyes' })
  await ines.getByRole('button', { name: 'Hand over' }).click()
  await expect(ines.getByText('Shared by Tam Reyes with one person')).toBeVisible()
  await menu(ines, /^Who sees it/)
  await expect(ines.getByRole('dialog', { name: 'Who sees this list' }).getByLabel('What Ines Okafor may do')).toBeDisabled()
})
