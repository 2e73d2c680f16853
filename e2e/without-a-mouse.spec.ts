import { expect, type Locator, type Page, test } from '@playwright/test'
import { figure, signIn } from './support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

const balance = () => figure(page.getByTestId('balance').textContent())

/** Goes to something by Tab alone. Wherever focus stops on the way it can be seen: an outline, a ring or another border. */
async function tabTo(what: Locator, key: 'Tab' | 'Shift+Tab' = 'Tab'): Promise<void> {
  await what.waitFor()
  for (let i = 0; i < 120; i++) {
    if (await what.evaluate((element) => element === document.activeElement)) return
    await page.keyboard.press(key)
    const seen = await page.evaluate(() => {
      const element = document.activeElement
      if (!element || element === document.body) return 'the page'
      const style = getComputedStyle(element)
      const shown = (style.outlineStyle !== 'none' && Number.parseFloat(style.outlineWidth) > 0) || style.boxShadow !== 'none'
      const { width, height } = element.getBoundingClientRect()
      return shown && width > 1 && height > 1 ? 'seen' : element.outerHTML.slice(0, 200)
    })
    expect(['seen', 'the page']).toContain(seen)
  }
  throw new Error(`120 presses of ${key} do not lead to ${what}`)
}

async function press(what: Locator, key: 'Tab' | 'Shift+Tab' = 'Tab'): Promise<void> {
  await tabTo(what, key)
  await page.keyboard.press('Enter')
}

const button = (name: string | RegExp) => page.getByRole('button', { name, exact: typeof name === 'string' })

test('a list is made, narrowed, put in another order and saved with the keyboard alone', async () => {
  await tabTo(page.getByLabel('Name of the new list'))
  await page.keyboard.type('By keyboard')
  await page.keyboard.press('Enter')
  await page.getByRole('heading', { name: 'By keyboard' }).waitFor()
  await expect.poll(balance).toBeGreaterThan(10_000)
  const everyone = await balance()

  const addLine = async (verb: string, kind: string) => {
    await press(button('Add a line'))
    await expect(page.getByRole('combobox', { name: 'What it asks' })).toBeFocused()
    await page.keyboard.type(`${verb.toLowerCase()} ${kind.toLowerCase()}`)
    await expect(page.getByRole('dialog', { name: 'Add a line' }).getByRole('option', { name: kind, exact: true })).toBeVisible()
    await page.keyboard.press('Enter')
    // The form of a new line takes the focus.
    await expect(page.getByLabel('Words or phrases of the role, one a line')).toBeFocused()
  }
  await addLine('Keep', 'Role wording')
  await page.keyboard.type('estates\nfacilities')
  await press(button('Done'))
  await expect(page.getByTestId('line-2')).toContainText('Keep role says estates or facilities in any wording')
  await expect.poll(balance).toBeLessThan(everyone)
  const kept = await balance()

  await addLine('Drop', 'Role wording')
  await page.keyboard.type('trainee')
  await press(button('Done'))
  await expect(page.getByTestId('line-3')).toContainText('Drop role says trainee')
  await expect.poll(balance).toBeLessThan(kept)
  const both = await balance()

  // One line up, and the list holds the same: both only take out.
  await tabTo(page.getByTestId('line-3').getByRole('button').first(), 'Shift+Tab')
  await page.keyboard.press('Alt+ArrowUp')
  await expect(page.getByTestId('line-2')).toContainText('Drop role says trainee')
  await expect.poll(balance).toBe(both)
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('line-2')).toContainText('Keep role says')
  await page.keyboard.press('Control+s')
  await expect(page.getByText(/Edition 2, saved/)).toBeVisible()

  // The people behind a figure.
  await press(button(/^Out by line 3/))
  await expect(page.getByText(/taken out by line 3: Drop role says trainee/)).toBeVisible()
})

test('lines, leaves and tabs are gone through with the arrows and F6', async () => {
  await tabTo(page.getByTestId('line-1').getByRole('button').first())
  await page.keyboard.press('ArrowDown')
  await expect(page.getByTestId('line-2').getByRole('button').and(page.locator(':focus'))).toHaveCount(1)
  await page.keyboard.press('ArrowUp')
  await expect(page.getByTestId('line-1').getByRole('button').and(page.locator(':focus'))).toHaveCount(1)
  await page.keyboard.press('F6')
  await expect(page.locator('#records')).toBeFocused()
  await press(button(/^On the list/))
  await page.keyboard.press('ArrowRight')
  await expect(button(/^Left out/)).toBeFocused()
  await expect(button(/^Left out/)).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('ArrowLeft')
  await expect(button(/^On the list/)).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('F6')
  await expect(page.locator('.leaf-left')).toBeFocused()
  await page.keyboard.press('F6')
})

test('its round is screened, checked and released with the keyboard alone, and the keys are told', async () => {
  await press(button('Start round 1'), 'Shift+Tab')
  await page.getByRole('heading', { name: 'Round 1 · By keyboard' }).waitFor()
  await press(button(/^\d+ days$/))
  await tabTo(page.getByLabel('Hold back after a contact'))
  await page.keyboard.press('Control+a')
  await page.keyboard.type('3')
  await press(button('Change rule'))
  await expect(button('3 days')).toBeVisible()
  await press(page.getByRole('listitem').getByRole('link', { name: 'Check', exact: true }), 'Shift+Tab')
  await page.getByRole('heading', { name: 'Check · Round 1 of By keyboard' }).waitFor()
  await tabTo(page.getByLabel('Look at', { exact: true }))
  await page.keyboard.press('Control+a')
  await page.keyboard.type('6')
  await press(button('Draw sample'))
  for (let left = 6; left > 0; left--) {
    await expect(button(`To see ${left}`)).toBeVisible()
    await page.keyboard.press('f')
  }
  await expect(page.getByText('All of the sample were seen.')).toBeVisible()
  await press(page.getByRole('link', { name: 'Back to the round' }))
  await page.getByRole('heading', { name: 'Round 1 · By keyboard' }).waitFor()
  await expect(button('Release round 1')).toBeEnabled()
  await press(button('Release round 1'))
  await expect(button(/^Release to /)).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^Released .* frozen as of then/)).toBeVisible({ timeout: 90_000 })
  await tabTo(page.getByRole('link', { name: /^Phone file/ }))

  // A contact, what came of it, and the end of the round; then the next begins.
  await press(page.getByRole('table', { name: 'People' }).getByRole('link').first())
  await page.getByRole('heading', { name: 'Ledger' }).waitFor()
  await tabTo(page.getByLabel('Result'))
  await page.keyboard.type('meeting')
  await press(button('Record'))
  await expect(page.getByText(/Phone · meeting set/).first()).toBeVisible()
  await page.goBack()
  await press(page.getByRole('listitem').getByRole('link', { name: 'Results' }))
  await page.getByRole('heading', { name: 'Results · Round 1 of By keyboard' }).waitFor()
  await press(button('Close the round'))
  await expect(page.getByText(/^Released .*, closed /)).toBeVisible()
  await press(page.getByRole('link', { name: 'Back to the round' }), 'Shift+Tab')
  await page.getByRole('heading', { name: 'Round 1 · By keyboard' }).waitFor()
  await page.goto('/lists')
  await press(page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: 'By keyboard', exact: true }))
  await press(page.getByRole('link', { name: 'Requalify', exact: true }))
  await page.getByRole('heading', { name: 'Requalify · By keyboard' }).waitFor()
  await press(button('Start round 2'))
  await page.getByRole('heading', { name: 'Round 2 · By keyboard' }).waitFor()

  await page.keyboard.press('?')
  await expect(page.getByRole('dialog')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
})

test('a person is found, and a note written, with the keyboard alone', async () => {
  await page.goto('/directory')
  await expect(page.getByLabel('Find', { exact: true })).toBeFocused()
  await page.keyboard.type('radley')
  const first = page
    .getByRole('table', { name: 'People' })
    .getByRole('link', { name: /Radley/ })
    .first()
  await press(first)
  await page.getByRole('heading', { name: 'Ledger' }).waitFor()
  await press(page.locator('summary', { hasText: 'Add a note' }))
  await tabTo(page.locator('textarea[name=text]'))
  await page.keyboard.type('Written without a mouse')
  await press(button('Add the note'))
  await expect(page.getByRole('main').getByText('Written without a mouse').and(page.locator(':not(textarea)')).first()).toBeVisible()
})
