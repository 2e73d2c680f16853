import { beforeAll, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { changesOf } from '@/usecases/changes/changes-of'
import { decideChange } from '@/usecases/changes/decide-change'
import { recordContact } from '@/usecases/contact/record-contact'
import { erasePerson } from '@/usecases/directory/erase-person'
import { openPerson } from '@/usecases/directory/open-person'
import { runUndo } from '@/usecases/intake/run-undo'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'

/** A contact that ended in *has left* is a report of it, which changes nothing until a colleague confirms it. */

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
  await broughtIn(
    t.ines,
    'people.csv',
    `Id,Name,Role,Organisation,Email
L1,Ada Gone,Bursar,North School,ada@north.example
L2,Ben Gone,Bursar,North School,ben@north.example
L3,Cyd Alone,,,cyd@alone.example
L4,Dee Gone,Head,South School,dee@south.example
L5,Eve Gone,Head,West School,eve@west.example
`,
  )
  // On the very day on which they came in, as happens in a first round.
  pinClock(new Date('2026-06-15T10:00:00Z'))
})

const idOf = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).first('id')).id
const contact = (result: string, more: object = {}) => ({ channel: 'phone', result, note: null, date: null, ...more })
/** What is known to have changed for somebody, as it stands. */
async function changes(person: number) {
  await bringChanges()
  return (await changesOf(t.ines, 'person', person)).rows
}
const employer = async (person: number) =>
  (await t.app('person as p').leftJoin('organisation as o', 'o.id', 'p.organisation_id').where('p.id', person).first('o.name')).name

test('by hand: it is a change to confirm, with the day by which it was so, and a successor is a row in doubt', async () => {
  const ada = await idOf('L1')
  await recordContact(t.ines, ada, contact('no longer works here', { successor: 'Una Next' }))
  expect(JSON.stringify((await openPerson(t.ines, ada)).ledger)).toContain('has left')
  const [change, ...more] = await changes(ada)
  expect(more).toEqual([])
  expect(change).toMatchObject({ asks: 'confirm' })
  expect(JSON.stringify(change)).toContain('North School')
  expect(await employer(ada)).toBe('North School')
  const named = await t
    .app('batch')
    .where({ file_name: `Successor named by ${t.ines.name}` })
    .pluck('id')
  expect(await t.app('batch_row').whereIn('batch_id', named).pluck('outcome')).toEqual(['in doubt'])
  await decideChange(t.ines, change.id, 'confirm')
  expect(await employer(ada)).toBeNull()
})

test('by a file: said in other words, and gone again when the file is undone', async () => {
  const ben = await idOf('L2')
  const batch = await broughtIn(t.ines, 'calls.csv', 'Id,Date,Channel,Result\nL2,2026-06-15,phone,Left the company\n', { kind: 'contacts' })
  expect(await changes(ben)).toHaveLength(1)
  await undoBatch(t.marek, batch)
  await runUndo(batch)
  expect(await changes(ben)).toEqual([])
})

test('of whom no organisation is known, it is a contact and no more', async () => {
  const cyd = await idOf('L3')
  await recordContact(t.ines, cyd, contact('has left'))
  expect(await changes(cyd)).toEqual([])
})

test('a successor is for coordinators, and only where somebody has left; then nothing is recorded', async () => {
  const dee = await idOf('L4')
  const before = await t.app('entry').count('id as n').first()
  await expect(recordContact(t.tam, dee, contact('has left', { successor: 'Una Next' }))).rejects.toThrow(/coordinators and managers/)
  await expect(recordContact(t.ines, dee, contact('spoke', { successor: 'Una Next' }))).rejects.toThrow(/has left/)
  await expect(recordContact(t.ines, dee, contact('has left', { successor: '?!' }))).rejects.toThrow(/cannot be read as a name/)
  expect(await t.app('entry').count('id as n').first()).toEqual(before)
  await recordContact(t.tam, dee, contact('has left'))
  expect(await changes(dee)).toHaveLength(1)
})

test('an erasure keeps that it was the result', async () => {
  const eve = await idOf('L5')
  await recordContact(t.ines, eve, contact('has left'))
  await recordContact(t.ines, eve, contact('said something odd'))
  await erasePerson(t.marek, eve)
  expect(await t.app('entry').where({ person_id: eve, kind: 'contact' }).orderBy('id').pluck('result')).toEqual(['has left', null])
})
