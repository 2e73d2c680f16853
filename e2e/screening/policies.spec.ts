import { expect, type Page, test } from '@playwright/test'
import { accessible, figure, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

const NAME = 'Spring letters'
const LIST = 'Plant nurseries, spring mailing'

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

const anyoneLeft = () => figure(page.getByTestId('clear').locator('td').last().textContent())
const rule = (id: string) => page.getByTestId(`rule-${id}`)

test('a policy is made from the team’s, changed, tried on a list before it is saved, and saved as an edition with a reason', async () => {
  await page.goto('/screening')
  await page.getByRole('link', { name: 'policies' }).click()
  await expect(page.getByRole('table', { name: 'Policies' })).toContainText('The team’s policy')
  await accessible(page)
  await fits(page)
  await page.getByLabel('Name of the new policy').fill(NAME)
  await page.getByRole('button', { name: 'Make policy' }).click()
  await expect(page.getByRole('heading', { name: NAME })).toBeVisible()
  await page.getByRole('button', { name: 'Add rule' }).click()
  await page.getByRole('menuitem', { name: /^Contacted recently/ }).click()
  await rule('contacted-within-2').getByRole('button', { name: '30 days' }).click()
  await page.getByLabel('Hold back after a contact').fill('400')
  await page.getByRole('group', { name: 'Channels it covers' }).getByLabel('phone').uncheck()
  await page.getByRole('button', { name: 'Change rule' }).click()
  await expect(rule('contacted-within-2')).toContainText('only email, post and direct message')
  await page.getByLabel('See what the changes would do to').selectOption({ label: LIST })
  await expect(page.getByTestId('trial')).toHaveText(/^Clear to contact: [\d,]+ now, [\d,]+ with the changes\.$/)
  const held = await figure(page.getByRole('button', { name: /^Newly held back [\d,]+$/ }).textContent())
  expect(held).toBeGreaterThan(0)
  await expect(page.getByRole('table', { name: 'People' })).toHaveAttribute('aria-rowcount', String(held + 1))
  await expect(page.getByRole('table', { name: 'People' })).toContainText('Contacted in the last 400 days')
  await accessible(page)
  await fits(page)
  await page.getByLabel('Reason for the new edition').fill('nobody twice a year')
  await page.getByRole('button', { name: 'Save edition 2' }).click()
  await expect(page.getByRole('list', { name: 'Editions' }).getByRole('listitem').first()).toContainText(
    /Edition 2.*Ines Okafor.*“nobody twice a year”.*Contacted in the last 400 days: added/,
  )
  // What the law asks for cannot be removed or switched off here.
  await expect(rule('register').getByRole('button', { name: /Remove|Switch off/ })).toHaveCount(0)
})

test('with a plan that has costs, a list tells beside its balance what it costs to contact its people', async () => {
  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: LIST, exact: true }).click()
  await expect(page.getByTestId('line-1')).toBeVisible()
  await page.getByLabel('Policy of this list').selectOption({ label: NAME })
  await page.getByRole('link', { name: NAME }).click()
  await page.getByRole('button', { name: 'Add rule' }).click()
  await page.getByRole('menuitem', { name: /^One channel each/ }).click()
  await rule('one-channel')
    .getByRole('button', { name: /^phone, else/ })
    .click()
  await page.getByLabel('Cost by post').fill('85')
  await page.getByRole('button', { name: 'Change rule' }).click()
  await page.getByRole('button', { name: 'Save edition 3' }).click()
  await expect(page.getByRole('list', { name: 'Editions' }).getByRole('listitem').first()).toContainText('Edition 3')
  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: LIST, exact: true }).click()
  const cost = page.getByTestId('list-cost')
  await expect(cost).toContainText(/^£[\d,.]+ to contact the [\d,]+ who are clear/)
  await expect(cost).toContainText(/All [\d,]+ by post £[\d,.]+/)
  await accessible(page)
  // It goes back to what it was, and costs are told no more.
  await page.getByLabel('Policy of this list').selectOption('')
  await page.reload()
  await expect(page.getByTestId('line-1')).toBeVisible()
  await expect(cost).toHaveCount(0)
})

test('a list chooses it, its round says so, and what is changed for this round alone is told with who and why', async () => {
  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: LIST, exact: true }).click()
  await page.getByLabel('Policy of this list').selectOption({ label: NAME })
  await expect(page.getByRole('link', { name: NAME })).toBeVisible()
  await page.locator('[data-sonner-toast]').getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByLabel('Policy of this list')).toHaveValue('')
  await page.getByLabel('Policy of this list').selectOption({ label: NAME })
  await expect(page.getByRole('link', { name: NAME })).toBeVisible()
  await page.getByRole('link', { name: 'Requalify' }).last().click()
  await page
    .getByRole('button', { name: /^Start round/ })
    .or(page.getByRole('main').getByRole('link', { name: 'Go on to screening' }))
    .first()
    .click()
  const policy = page.getByRole('region', { name: 'Policy' })
  await expect(policy).toContainText(`Screened by ${NAME}, edition 3.`)
  await rule('contacted-within-2').getByRole('button', { name: '400 days' }).click()
  await page.getByLabel('Hold back after a contact').fill('200')
  // What it would do is told before it is done, and comes true.
  const effect = page.getByTestId('rule-effect')
  await expect(effect).toHaveText(/ more people are clear\.$/)
  const more = await figure(effect.textContent().then((text) => text?.split('; ')[1].split(' more')[0] ?? ''))
  const before = await anyoneLeft()
  await page.getByLabel('Why, for this round alone').fill('the fair is in May')
  await page.getByRole('button', { name: 'Change rule' }).click()
  await expect(policy).toContainText(
    /Changed for this round alone, last by Ines Okafor.*“the fair is in May”.*Contacted in the last 400 days, only email, post and direct message: now contacted in the last 200 days/,
  )
  await expect.poll(anyoneLeft).toBe(before + more)
  // What was told of the choice of the policy fades out meanwhile.
  await expect(page.locator('[data-sonner-toast]')).toHaveCount(0)
  await accessible(page)
  await fits(page)
})

test('whoever is clear by exactly some channels is a press away, and the ways add up to anyone left', async () => {
  const ways = page.getByRole('region', { name: 'Clear by which channels' }).getByRole('button')
  const anyone = await anyoneLeft()
  const counts = await Promise.all((await ways.all()).map((way) => figure(way.locator('b').textContent())))
  expect(counts.reduce((sum, n) => sum + n, 0)).toBe(anyone)
  await ways.first().click()
  await expect(page.getByRole('table', { name: 'People' })).toHaveAttribute('aria-rowcount', String(counts[0] + 1))
  await page.reload()
  await expect(ways.first()).toHaveAttribute('aria-pressed', 'true')
  await expect(page.getByRole('table', { name: 'People' })).toHaveAttribute('aria-rowcount', String(counts[0] + 1))
})
