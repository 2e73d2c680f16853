import { readFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import { accessible, cellTexts, daysOn, figure, fits, kill, signIn } from './support/app'

test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  daysOn(0)
  await signIn(page)
})
test.afterAll(() => page.close())

async function bringIn(name: string) {
  await page.goto('/intake')
  await page.getByLabel('File', { exact: true }).setInputFiles(`demo/files/${name}`)
  await expect(page.getByRole('heading', { name })).toBeVisible()
  await expect(page.getByRole('heading', { name: 'The first rows, as they will be stored' })).toBeVisible()
}

async function outcome(name: string): Promise<number> {
  return figure(page.getByTestId(`outcome-${name}`).locator('.balance').textContent())
}

/** The account of a batch reconciles on screen. Returns its figures. */
async function batchAccount(rows: number) {
  await expect(page.getByTestId('rows')).toHaveText(rows.toLocaleString('en-GB'), { timeout: 40_000 })
  const counts = {
    new: await outcome('new'),
    same: await outcome('same'),
    updated: await outcome('updated'),
    doubt: await outcome('in doubt'),
    refused: await outcome('refused'),
  }
  expect(Object.values(counts).reduce((a, b) => a + b)).toBe(rows)
  return counts
}

test('a file comes in: its rows are shown as they will be stored, and every one is accounted for', async () => {
  await bringIn('pellow-prospects-first-month.csv')
  await expect(page.getByLabel('Contact ID holds')).toHaveValue('outsideId')
  await expect(page.getByText('Leif Radley').first()).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Import file' }).click()
  const counts = await batchAccount(357)
  expect(counts.new).toBeGreaterThan(240)
  expect(counts.same).toBeGreaterThan(20)
  expect(counts.refused).toBe(5)
  await page.getByRole('button', { name: 'refused rows: 5' }).click()
  await expect(page.getByText('“VIP” is not a relation we know')).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Refused rows as CSV' }).click()
  const text = readFileSync(await (await download).path(), 'utf8')
  expect(text.split('\r\n')[0]).toBe(
    'Contact ID,First name,Last name,Job title,Organisation,Organisation type,Employees,Email,Phone,Mobile,Address,Town,County,Postcode,Status,Tags,Row,Reason',
  )
  await accessible(page)
  await fits(page)
})

async function addLine(verb: string, kind: string) {
  await page.getByRole('button', { name: 'Add a line' }).click()
  await page.getByRole('radio', { name: verb }).check()
  await page.getByRole('dialog', { name: 'Add a line' }).getByRole('option', { name: kind, exact: true }).click()
}

/** A figure as a number: 1,234 is 1234; blank and zero are 0. */
const number = (text: string | undefined): number => Number((text ?? '').replace(/[^\d]/g, '') || 0)

const balance = () => figure(page.getByTestId('balance').textContent())

interface LineFigures {
  out: number
  unknown: number
  in: number
  balance: number
}

/** The lines on screen, each as its figures; checks that every balance follows from the one before. Looks again where an answer came in between. */
async function lines(): Promise<LineFigures[]> {
  let all: LineFigures[] = []
  await expect(async () => {
    const rows = await cellTexts(page.getByTestId(/^line-\d+$/))
    const closing = await balance()
    all = rows.map((cells) => {
      const [out, unknown, came, after] = [1, 2, 3, 4].map((i) => number(cells[i].split('\n')[0]))
      return { out, unknown, in: came, balance: after }
    })
    let before = 0
    for (const line of all) {
      expect(before - line.out - line.unknown + line.in).toBe(line.balance)
      before = line.balance
    }
    expect(before).toBe(closing)
  }).toPass({ timeout: 60_000 })
  return all
}

test('a list is built line by line, and each edit shows the new balances at once', async () => {
  await page.goto('/lists')
  await page.getByLabel('Name of the new list').fill('Estates people of Pellow')
  await page.getByRole('button', { name: 'New list' }).click()
  await expect(page.getByRole('heading', { name: 'Estates people of Pellow' })).toBeVisible()
  await expect(page.getByTestId('balance')).toHaveText(/^1\d,\d{3}$/)
  const everyone = await balance()

  await addLine('Keep', 'Role wording')
  await page.getByLabel('Words or phrases of the role, one a line').fill('estates\nfacilities')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByTestId('line-2')).toContainText('Keep role says estates or facilities in any wording')
  await expect.poll(balance).toBeLessThan(everyone)

  await addLine('Keep', 'Has a usable address or number')
  await page.getByRole('button', { name: 'Done' }).click()
  const kept = await expect
    .poll(async () => (await lines()).length)
    .toBe(3)
    .then(lines)
  expect(kept[1].unknown).toBeGreaterThan(500)

  await addLine('Drop', 'Role wording')
  await page.getByLabel('Words or phrases of the role, one a line').fill('trainee')
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByTestId('line-4').getByTestId('without')).toHaveText(
    `Without this line the list would hold ${kept[2].balance.toLocaleString('en-GB')}`,
  )
  await lines()

  await addLine('Add', 'Town or postcode')
  await page.getByRole('button', { name: 'Copsewick' }).click()
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByTestId('line-5')).toContainText('came back')
  const five = await lines()
  expect(five[4].in).toBeGreaterThan(100)

  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(page.getByTestId('line-5')).toHaveCount(0)
  await expect.poll(balance).toBe(five[3].balance)
  await accessible(page)
  await fits(page)
})

test('the tabs count records, add up to the directory, and open their people', async () => {
  const tab = (name: string) => page.getByRole('button', { name: new RegExp(`^${name} [\\d,]+$`) })
  const total = async (name: string) => figure(tab(name).textContent())
  const [on, out, unknown] = [await total('On the list'), await total('Left out'), await total('Unknown')]
  expect(on).toBe(await balance())
  expect(on + out + unknown).toBe((await lines())[0].balance)
  await tab('Left out').click()
  await expect(page.getByRole('columnheader', { name: 'Deciding line' })).toBeVisible()
  await expect(
    page
      .getByRole('table', { name: 'People' })
      .getByText(/^Left out by line \d$/)
      .first(),
  ).toBeVisible()
  await tab('Unknown').click()
  await expect(page.getByText('Unknown by line 2').first()).toBeVisible()
  await page.getByRole('button', { name: /^Out by line 4/ }).click()
  await expect(page.getByText(/taken out by line 4: Drop role says trainee/)).toBeVisible()
  await expect(
    page
      .getByRole('table', { name: 'People' })
      .getByText(/trainee/i)
      .first(),
  ).toBeVisible()
})

test('what is not saved survives leaving the page; saving makes an edition', async () => {
  const url = page.url()
  await page.goto('/rounds')
  await page.goto(url)
  await expect(page.getByTestId('line-4')).toContainText('Drop role says trainee')
  await page.keyboard.press('Control+s')
  await expect(page.getByText(/Edition 2, saved/)).toBeVisible()
  await page.reload()
  await expect(page.getByTestId('line-4')).toContainText('Drop role says trainee')
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled()
})

/** The screening account on screen; checks every channel and returns who is clear. */
async function screening() {
  const rows = page.getByRole('table', { name: 'Screening account' }).locator('tbody tr')
  let texts: string[][] = []
  await expect(async () => {
    texts = await cellTexts(rows)
    expect(texts.at(-1)?.[5]).toMatch(/\d/)
  }).toPass()
  const all = texts.map((cells) => [1, 2, 3, 4, 5].map((i) => number(cells[i].split('\n')[0])))
  const [open, ...rest] = all
  const clear = rest.pop() as number[]
  for (const i of [0, 1, 2, 3]) expect(rest.reduce((left, row) => left - row[i], open[i])).toBe(clear[i])
  expect(rest[rest.length - 1][4]).toBe(clear[4])
  return { opening: open[4], email: clear[0], phone: clear[1], post: clear[2], direct: clear[3], anyone: clear[4] }
}

test('the list is screened, a column a channel, and who is held back is told why', async () => {
  await page.getByRole('button', { name: 'Start round 1' }).click()
  await expect(page.getByRole('heading', { name: 'Round 1 · Estates people of Pellow' })).toBeVisible()
  const before = await screening()
  expect(before.anyone).toBeLessThan(before.opening)
  await expect(page.getByRole('columnheader', { name: 'Held back because' })).toBeVisible()
  await page
    .getByTestId('rule-register')
    .getByRole('button', { name: /phone closed/ })
    .click()
  await expect(page.getByText(/Pellow do-not-call register/).first()).toBeVisible()
  await page.getByRole('button', { name: '30 days' }).click()
  await page.getByLabel('Hold back after a contact').fill('5')
  await page.getByRole('button', { name: 'Change rule' }).click()
  await expect(page.getByRole('button', { name: '5 days' })).toBeVisible()
  await expect.poll(async () => (await screening()).anyone).toBeGreaterThan(before.anyone)
  await accessible(page)
  await fits(page)
})

test('release hands over one file a channel, the same again byte for byte', async () => {
  const clear = await screening()
  await page.getByRole('button', { name: 'Release round 1' }).click()
  const again = page.getByRole('alertdialog', { name: 'Release round 1 of Estates people of Pellow?' })
  const files = await cellTexts(again.getByRole('row'))
  expect(files.slice(1).map((cells) => number(cells[1]))).toEqual([clear.email, clear.phone, clear.post, clear.direct, clear.anyone])
  await accessible(page)
  await again.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByRole('button', { name: 'Release round 1' })).toBeFocused()
  await page.keyboard.press('Enter')
  await again.getByRole('button', { name: /^Release to / }).click()
  await expect(page.getByText(/^Released .* frozen as of then/)).toBeVisible({ timeout: 90_000 })
  expect(await screening()).toEqual(clear)
  for (const [name, rows] of [
    ['Email', clear.email],
    ['Phone', clear.phone],
    ['Post', clear.post],
    ['Direct message', clear.direct],
  ] as const) {
    const link = page.getByRole('link', { name: `${name} file, ${rows.toLocaleString('en-GB')}` })
    const fetched: Buffer[] = []
    for (let i = 0; i < 2; i++) {
      const download = page.waitForEvent('download')
      await link.click()
      fetched.push(readFileSync(await (await download).path()))
    }
    expect(fetched[0].equals(fetched[1])).toBe(true)
    expect(fetched[0].toString('utf8').split('\r\n').length).toBe(rows + 2)
  }
  await accessible(page)
})

test('a month later the next file comes in, and the list is requalified: joined, left, stayed, each with its reason', async () => {
  daysOn(31)
  await bringIn('pellow-prospects-second-month.csv')
  await page.getByRole('button', { name: 'Import file' }).click()
  const counts = await batchAccount(375)
  expect(counts.updated).toBeGreaterThan(50)
  expect(counts.new).toBeGreaterThan(100)

  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: 'Estates people of Pellow' }).click()
  await page.getByRole('main').getByRole('link', { name: 'Requalify', exact: true }).click()
  const figures: Record<string, number[]> = {}
  for (const which of ['listed', 'clear']) {
    const rows = page.getByTestId(`account-${which}`).locator('tbody tr')
    await expect(rows.last().locator('td').nth(3)).toHaveText(/\d/)
    const all = await Promise.all(
      (await rows.all()).map(async (row) => Promise.all([1, 2, 3].map((i) => figure(row.locator('td').nth(i).textContent())))),
    )
    const [open, ...rest] = all
    const [left, joined, closing] = rest.pop() as number[]
    expect(rest.reduce((sum, [l]) => sum + l, 0)).toBe(left)
    expect(rest.reduce((sum, [, j]) => sum + j, 0)).toBe(joined)
    expect(open[2] - left + joined).toBe(closing)
    figures[which] = [left, joined]
  }
  expect(figures.listed[0]).toBeGreaterThan(5)
  expect(figures.listed[1]).toBeGreaterThan(30)
  await expect(page.getByText(/^role: .+ → .+/).first()).toBeVisible()
  await page.getByRole('button', { name: /^Joined/ }).click()
  await expect(page.getByText(/came in on .* with pellow-prospects-second-month\.csv/).first()).toBeVisible()
  await accessible(page)
  await fits(page)
  await page.getByRole('button', { name: 'Start round 2' }).click()
  await expect(page.getByRole('heading', { name: 'Round 2 · Estates people of Pellow' })).toBeVisible()
  await page.goto('/rounds')
  await expect(page.getByRole('region', { name: 'Closed rounds' }).getByText('Estates people of Pellow')).toBeVisible()
  await accessible(page)
})

test('while the engine is gone numbers are absent and editing works; they come back by themselves', async () => {
  await page.goto('/lists')
  await page.getByRole('region', { name: 'Lists' }).getByRole('link', { name: 'Breweries and dairies' }).click()
  await expect.poll(balance).toBeGreaterThan(100)
  const before = await balance()
  kill('engine')
  await addLine('Keep', 'Relation to us')
  await page.getByLabel('prospect', { exact: true }).check()
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByTestId('line-5')).toContainText('Keep relation to us is prospect')
  await expect.poll(balance, { timeout: 30_000 }).toBeLessThan(before)
  await lines()
  daysOn(0)
})
