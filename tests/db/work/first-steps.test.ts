import { expect, test } from 'vitest'
import { createList } from '@/usecases/lists/create-list'
import { startBatch } from '@/usecases/intake/start-batch'
import { receiveFile } from '@/usecases/intake/receive-file'
import { runBatch } from '@/usecases/intake/run-batch'
import { batchOf } from '@/usecases/intake/batch-for'
import { suppress } from '@/usecases/screening/suppress'
import { firstSteps } from '@/usecases/work/first-steps'
import { freshDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

test('an empty book leads from the first file to the first list, a step at a time, and then no more', async () => {
  const t = await freshDatabase()
  await startEngine(t)
  const done = async () => (await firstSteps(t.ines))?.map((step) => step.done)
  const next = async () => (await firstSteps(t.ines))?.find((step) => !step.done)
  expect(await done()).toEqual([false, false, false, false, false])
  expect(await next()).toMatchObject({ title: 'Import a file', href: '/intake' })

  const batch = await receiveFile(t.ines, {
    name: 'first.csv',
    bytes: Buffer.from('Name,Email\nAda Able,ada@first.example\n'),
    kind: 'people',
  })
  expect(await done()).toEqual([true, false, false, false, false])
  expect(await next()).toMatchObject({ title: 'Check its columns', href: `/intake/${batch}` })

  const { mapping } = await batchOf(batch)
  await startBatch(t.ines, batch, { kind: 'people', mapping, shaping: {} }, {})
  expect(await done()).toEqual([true, true, false, false, false])
  await runBatch(batch)
  expect(await done()).toEqual([true, true, true, false, false])
  expect(await next()).toMatchObject({ title: 'Say who must not be contacted', href: '/screening' })

  await suppress(t.ines, { text: 'ada@first.example' }, { reason: 'opt-out', channels: ['email'], word: 'a letter' })
  expect(await done()).toEqual([true, true, true, true, false])
  expect(await next()).toMatchObject({ title: 'Make your first list', href: '/lists' })

  await createList(t.tam, 'First', false)
  expect(await firstSteps(t.ines)).toBeNull()
})
