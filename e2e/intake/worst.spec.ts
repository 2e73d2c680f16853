import { expect, type Page, test } from '@playwright/test'
import type { Criterion } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'
import { connect, setDb } from '@/db/connection'
import { createList } from '@/usecases/lists/create-list'
import { Random } from '@/core/checks/random'
import { accessible, fits, signIn } from '../support/app'

test.describe.configure({ mode: 'serial' })

const LONG_TOWN = 'Llanfairpwllgwyngyllgogerychwyrndrobwllllantysiliogogogoch'
const LONG_TAG = 'a tag that is really very long indeed'
const LONG_NAME = 'Wolfeschlegelsteinhausenbergerdorff'

/** Four hundred rows as they come: long names, capitals, other scripts, emptiness, cells that hold something else. */
function dirt(): string {
  const random = new Random(7)
  const of = (words: string[]) => words[random.below(words.length)]
  const cell = (text: string) => `"${text.replaceAll('"', '""')}"`
  const rows = Array.from({ length: 400 }, (_, i) =>
    [
      i % 9 ? `X${i}` : '',
      of([
        'ANNE-MARIE',
        'jörg',
        'Dr Ólafur',
        'Mary-Jane Wilhelmina Constantia',
        '李',
        'محمد',
        'J',
        '  tam ',
        'O’Rourke',
        'Anna🌸',
        '<b>Bo</b>',
        '',
      ]),
      i === 0
        ? LONG_NAME
        : of([
            'van der Ploegh-Featherstonehaugh',
            'SMITHSON',
            'de la Cruz y Montoya de los Santos',
            'b',
            'عبدالله',
            LONG_NAME,
            '-',
            'Quill',
            '',
          ]),
      of([
        'Head of Estates, Facilities and Capital Programmes (Interim, maternity cover until further notice)',
        '',
        'FACILITIES MGR',
        '???',
        'Büro',
      ]),
      of([
        'St Bartholomew-the-Less Church of England Voluntary Aided Primary School and Nursery (Upper Marle)',
        '',
        'HALLOW CLINIC',
        '=HYPERLINK("x")',
        'Brewery №4',
      ]),
      of([
        `d${i}@example.org`,
        `D${i}@EXAMPLE.ORG `,
        'not an address',
        '',
        `a.very.long.mailbox.that.goes.on.and.on.${i}@a-long-subdomain.of.a.long.domain.example`,
      ]),
      of([`0113 496 ${String(i).padStart(4, '0')}`, '', 'ext. 12']),
      of([`${i} Mill Lane`, '', 'The Old Rectory, Behind the Church, Off the Lane that has no Name, Second Gate']),
      of(['Thornmouth', '', LONG_TOWN, 'UPPER MARLE']),
      of(['PW1 2AB', '', 'pw12ab', '12345']),
      of(['prospect', 'customer', '', 'lead?']),
      of(['12', '', '1,200', 'about 40', '-3']),
      of(['', 'newsletter', `large roof; ${LONG_TAG}`]),
    ]
      .map(cell)
      .join(','),
  )
  return `Id,First name,Last name,Role,Organisation,Email,Phone,Address,Town,Postcode,Status,Employees,Tags\r\n${rows.join('\r\n')}\r\n`
}

function thirtyLines(): Line[] {
  const criteria: [verb: 'keep' | 'drop' | 'add', criterion: Criterion][] = [
    [
      'keep',
      {
        kind: 'role',
        any: [
          'estates',
          'facilities',
          'premises',
          'site',
          'buildings',
          'head',
          'manager',
          'owner',
          'officer',
          'lead',
          'partner',
          'secretary',
        ],
      },
    ],
    [
      'keep',
      {
        kind: 'place',
        towns: ['Copsewick', LONG_TOWN, 'Thornmouth', 'Great Pellow', 'Kettlehythe', 'Low Wendle', 'Upper Marle'],
        postcodes: ['PW1', 'PW2'],
      },
    ],
    ['drop', { kind: 'tag', any: [LONG_TAG] }],
    ['add', { kind: 'industry', any: ['Dairy farming and the making of cheese, butter and other milk products', 'school'] }],
    ...Array.from({ length: 25 }, (_, i): ['drop', Criterion] => ['drop', { kind: 'role', any: [`grade ${i}`] }]),
  ]
  return [
    { id: 'start', verb: 'start', off: false, batch: null },
    ...criteria.map(([verb, criterion], i): Line => ({ id: `l${i + 2}`, verb, off: false, unknownAsYes: verb === 'keep', criterion })),
  ]
}

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  await signIn(page)
})
test.afterAll(() => page.close())

/** Whether all of something can be seen: inside the window, and nothing lies over its middle. */
async function inView(name: string, role: 'columnheader'): Promise<boolean> {
  return page
    .getByRole(role, { name })
    .first()
    .evaluate((element) => {
      const { left, right, top, bottom } = element.getBoundingClientRect()
      const over = document.elementFromPoint((left + right) / 2, (top + bottom) / 2)
      return (
        left >= 0 &&
        top >= 0 &&
        right <= innerWidth &&
        bottom <= innerHeight &&
        over !== null &&
        (element.contains(over) || over.contains(element))
      )
    })
}

test('four hundred dirty rows: each is accounted for, nothing is cut off, markup stays text', async () => {
  await page.goto('/intake')
  await page.getByLabel('File', { exact: true }).setInputFiles({ name: 'dirt.csv', mimeType: 'text/csv', buffer: Buffer.from(dirt()) })
  await page.getByRole('heading', { name: 'The first rows, as they will be stored' }).waitFor()
  await fits(page)
  await accessible(page)
  await page.getByRole('button', { name: 'Import file' }).click()
  await page.getByText('Undo this batch').waitFor()
  await expect(page.getByTestId('rows')).toHaveText('400')
  // A head count nobody understands is left out and told; the person is in.
  await expect(page.getByText(/is not a number of people and was left out/).first()).toBeVisible()
  expect(await page.locator('table b b, table i').count()).toBe(0)
  await fits(page)
  await accessible(page)
  for (const address of ['/directory?find=wolfesch', '/directory?find=bartholomew']) {
    await page.goto(address)
    await expect(page.getByRole('table', { name: 'People' }).getByRole('link').first()).toBeVisible()
    await fits(page)
    await accessible(page)
  }
  await page.goto('/directory?find=wolfesch')
  await page.getByRole('table', { name: 'People' }).getByRole('link').first().click()
  await page.getByRole('heading', { name: 'Ledger' }).waitFor()
  await fits(page)
})

test('a list of thirty lines: figures and headings stay in view at 1280 and 900 wide', async () => {
  const owner = process.env.E2E_OWNER_URL as string
  process.env.APP_DATABASE_URL = owner
  const db = connect(owner, 1)
  setDb(db)
  const { id, name } = await db('user').where({ name: 'Ines Okafor' }).first('id', 'name')
  const title = 'Everybody who looks after a building anywhere in the county or its neighbours, spring and summer letters'
  const list = await createList({ id, name, post: 'coordinator' }, title, true, thirtyLines())
  await db.destroy()
  await page.goto(`/lists/${list}`)
  await expect(page.getByTestId('line-30')).toBeAttached()
  await expect(page.getByTestId('balance')).not.toHaveText('')
  await expect(page.getByText('Add everyone whose organisation is a')).toBeAttached()
  for (const width of [1280, 900]) {
    await page.setViewportSize({ width, height: 800 })
    for (const line of [3, 16, 30]) {
      await page.getByTestId(`line-${line}`).scrollIntoViewIfNeeded()
      for (const heading of ['Out', 'Unknown', 'In', 'Balance'])
        expect(await inView(heading, 'columnheader'), `${heading} at ${width}, line ${line}`).toBe(true)
    }
    const leaf = await page
      .getByRole('table', { name: 'Account of the list' })
      .or(page.locator('table.account'))
      .first()
      .evaluate((table) => {
        const box = table.closest('.leaf') as HTMLElement
        return {
          wide: table.getBoundingClientRect().right - box.getBoundingClientRect().right,
          sideways: box.scrollWidth - box.clientWidth,
        }
      })
    expect(leaf.wide).toBeLessThanOrEqual(0)
    expect(leaf.sideways).toBeLessThanOrEqual(0)
    await fits(page)
    await page.getByTestId('line-1').scrollIntoViewIfNeeded()
    await accessible(page)
  }
  await page.setViewportSize({ width: 1280, height: 800 })
})
