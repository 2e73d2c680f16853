import fc from 'fast-check'
import { beforeAll, expect, test } from 'vitest'
import { batchRowsPage } from '@/db/intake/batch-rows'
import { organisationsPage } from '@/db/directory/organisation-rows'
import { suppressionsPage } from '@/db/screening/suppression-rows'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'

/** A page is a part of one order, however it is cut, and says how many there are in all. */

const ROWS = 37
let t: TestDatabase
let batch: number
beforeAll(async () => {
  t = await freshDatabase()
  const rows = Array.from(
    { length: ROWS },
    (_, i) => `R${i},Given${i % 5} Family${i},Works ${i % 9},p${i}@pages.example,${i % 4} Mill Lane,Town ${i % 3}`,
  )
  batch = await broughtIn(t.ines, 'pages.csv', `Id,Name,Organisation,Email,Address,Town\n${rows.join('\n')}\n`)
  for (let i = 0; i < 11; i++)
    await suppress(t.tam, { text: `p${i}@pages.example` }, { reason: 'opt-out', channels: ['email'], word: `letter ${i % 2}` })
})

type Page = (page: { offset: number; limit: number }) => Promise<{ total: number; rows: object[] }>
const PAGES: [string, Page, number][] = [
  ['organisations by name', (page) => organisationsPage(t.app, '', 'name', page), 9],
  ['organisations by their people', (page) => organisationsPage(t.app, 'works', 'people', page), 9],
  ['organisations by a word that few have', (page) => organisationsPage(t.app, 'works 7', 'town', page), 1],
  ['rows of a batch', (page) => batchRowsPage(t.app, batch, { outcome: 'new' }, page), ROWS],
  ['rows of a batch that there are none of', (page) => batchRowsPage(t.app, batch, { outcome: 'refused' }, page), 0],
  ['suppressions', (page) => suppressionsPage(t.app, '', null, page), 11],
  ['suppressions by whose word', (page) => suppressionsPage(t.app, 'letter 1', 'opt-out', page), 5],
]

test.each(PAGES)('%s', async (_, page, expected) => {
  const all = await page({ offset: 0, limit: 1000 })
  expect(all.total).toBe(expected)
  expect(all.rows).toHaveLength(expected)
  await fc.assert(
    fc.asyncProperty(fc.nat(ROWS + 3), fc.integer({ min: 1, max: ROWS }), async (offset, limit) => {
      const { total, rows } = await page({ offset, limit })
      expect(total).toBe(expected)
      expect(rows).toEqual(all.rows.slice(offset, offset + limit))
    }),
    { numRuns: 25 },
  )
})
