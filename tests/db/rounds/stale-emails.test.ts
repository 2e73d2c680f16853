import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { createList } from '@/usecases/lists/create-list'
import { staleEmails } from '@/usecases/rounds/stale-emails'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let list: number
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'stale.csv',
    'Id,Name,Email\nS1,Ada Never,ada@stale.example\nS2,Ben Lately,ben@stale.example\nS3,Cyd Long,cyd@stale.example\nS4,Dov None,\nS5,Eve Bad,eve@stale.example\n',
  )
  list = await createList(t.ines, 'Stale', true, [start])
})
const checked = async (value: string, at: string, state = 'verified') => {
  const { key } = await t.app('address').where({ value }).first('key')
  await t
    .owner('email_check')
    .insert({ key, state, why: 'x', at: new Date(at), source: 'a source', actor_id: t.ines.id })
    .onConflict('key')
    .merge()
}

test('the email addresses of a list that were not checked lately are counted, those that never were among them', async () => {
  expect(await staleEmails(t.tam, list)).toMatchObject({ stale: 4, never: 4 })
  const { days } = await staleEmails(t.tam, list)
  await checked('ben@stale.example', '2026-06-14T09:00:00Z')
  await checked('cyd@stale.example', new Date(Date.parse('2026-06-15T09:00:00Z') - (days + 1) * 86_400_000).toISOString())
  expect(await staleEmails(t.tam, list)).toEqual({ stale: 3, never: 2, days })
  // One that cannot be used and was never checked is not asked about.
  await t.owner('address').where({ value: 'eve@stale.example' }).update({ usable: false, why_unusable: 'checked as bad: no such mailbox' })
  expect(await staleEmails(t.tam, list)).toMatchObject({ stale: 2, never: 1 })
  // One that was checked as bad long ago is asked about again, so it is counted.
  await checked('eve@stale.example', '2020-01-01T09:00:00Z', 'bad')
  expect(await staleEmails(t.tam, list)).toMatchObject({ stale: 3, never: 1 })
  const premises = await createList(t.ines, 'Houses', true, [{ ...start, subject: 'premises' } as Line])
  await expect(staleEmails(t.ines, premises)).rejects.toThrow(/Only people/)
})
