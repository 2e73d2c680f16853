import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { FIELD } from '@/core/clean/standard-fields'
import { batchIndex } from '@/usecases/intake/batches'
import { createList } from '@/usecases/lists/create-list'
import { ownersAsPeople } from '@/usecases/intake/owners-as-people'
import { runBatch } from '@/usecases/intake/run-batch'
import { shareList } from '@/usecases/lists/share-list'
import { freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { receiveFile } from '@/usecases/intake/receive-file'
import { batchRows } from '@/usecases/intake/batch-rows'
import { previewBatch } from '@/usecases/intake/preview-batch'
import { startBatch } from '@/usecases/intake/start-batch'

/** Owners of premises become people one can write to. */

let t: TestDatabase
let list: number
const start = { id: 's', verb: 'start', off: false, batch: null, subject: 'premises' } as Line
const ON = { lines: [start], view: { tab: 'on' as const } }

beforeAll(async () => {
  t = await freshDatabase()
  const file = `Id,Premises,Street,Town,Postcode,Owner,Kind of owner,Owner: street,Owner: town,Owner: postcode
B1,North Works,1 Mill Lane,Thornmouth,PW1 2AB,Ann Able,individual,9 Quay Street,Low Wendle,PW2 1ZZ
B2,South Works,2 Mill Lane,Thornmouth,PW1 2AB,Ann Able,individual,9 Quay Street,Low Wendle,PW2 1ZZ
B3,East Works,3 Mill Lane,Thornmouth,PW1 2AB,East Holdings Ltd,company,1 Bank Street,Low Wendle,PW2 1ZZ
B4,West Works,4 Mill Lane,Thornmouth,PW1 2AB,Bob Bell,individual,,,
B5,Old Works,5 Mill Lane,Thornmouth,PW1 2AB,Cas Cole,,5 Mill Lane,Thornmouth,PW1 2AB
B6,New Works,6 Mill Lane,Thornmouth,PW1 2AB,,,,,
`
  const id = await receiveFile(t.ines, { name: 'premises.csv', bytes: Buffer.from(file), kind: 'premises' })
  const { batch } = await previewBatch(t.ines, id)
  await startBatch(t.ines, id, { kind: 'premises', mapping: batch.mapping, shaping: {} }, {})
  await runBatch(id)
  await startEngine(t)
  list = await createList(t.ines, 'Old roofs', false, [start])
})

test('each once, with their own address; who is no person or has none is left out and counted; they come in and can be written to', async () => {
  expect((await t.app('premises').where({ outside_id: 'B1' }).first('details')).details[FIELD.ownerStreet]).toBe('9 Quay Street')
  const { batch, people, left } = await ownersAsPeople(t.ines, list, ON)
  expect({ people, left }).toEqual({ people: 2, left: 3 })
  const read = await previewBatch(t.ines, batch)
  expect(read.lacks).toBeNull()
  expect(read.batch.file_name).not.toContain('Old roofs')
  await startBatch(t.ines, batch, { kind: 'people', mapping: read.batch.mapping, shaping: {} }, {})
  await runBatch(batch)
  expect((await batchRows(t.ines, batch, { outcome: 'new' })).rows.map((row) => row.person?.name)).toEqual(['Ann Able', 'Cas Cole'])
  expect(await t.app('person').where({ batch_id: batch }).orderBy('name').select('name', 'street', 'postcode')).toEqual([
    { name: 'Ann Able', street: '9 Quay Street', postcode: 'PW2 1ZZ' },
    { name: 'Cas Cole', street: '5 Mill Lane', postcode: 'PW1 2AB' },
  ])
  expect(
    await t
      .app('address')
      .where({ channel: 'post' })
      .whereIn('person_id', t.app('person').where({ batch_id: batch }).select('id'))
      .count('id as n')
      .first(),
  ).toEqual({ n: 2 })
  // A second time they are the same people.
  const again = await ownersAsPeople(t.ines, list, ON)
  const second = await previewBatch(t.ines, again.batch)
  await startBatch(t.ines, again.batch, { kind: 'people', mapping: second.batch.mapping, shaping: {} }, { again: true })
  await runBatch(again.batch)
  expect((await batchRows(t.ines, again.batch, { outcome: 'same' })).total).toBe(2)
})

test('the batch belongs to the list, and it is for those who may use it', async () => {
  const { batch } = await ownersAsPeople(t.ines, list, ON)
  expect((await batchIndex(t.marek)).some((b) => b.id === batch)).toBe(false)
  await expect(ownersAsPeople(t.marek, list, ON)).rejects.toThrow(/no such list/)
  await shareList(t.ines, list, { team: 'see', members: [] })
  await expect(ownersAsPeople(t.marek, list, ON)).rejects.toThrow(/not use it/)
  await expect(ownersAsPeople(t.tam, list, ON)).rejects.toThrow(/for coordinators/)
})

test('what is not of premises, and where nobody is left, is refused and makes nothing', async () => {
  const before = await t.app('batch').count('id as n').first()
  await expect(ownersAsPeople(t.ines, list, { ...ON, lines: [{ id: 's', verb: 'start', off: false, batch: null }] })).rejects.toThrow(
    /Only premises/,
  )
  await expect(ownersAsPeople(t.ines, list, { ...ON, view: { tab: 'out' } })).rejects.toThrow(/None of these premises has an owner/)
  expect(await t.app('batch').count('id as n').first()).toEqual(before)
})
