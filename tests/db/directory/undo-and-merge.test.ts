import { beforeAll, describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { openPerson } from '@/usecases/directory/open-person'
import { listAccountFor } from '@/usecases/lists/list-account'
import { mergePeople } from '@/usecases/directory/merge-people'
import { recordContact } from '@/usecases/contact/record-contact'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { addNote } from '@/usecases/contact/add-note'
import { mergeAccount } from '@/usecases/directory/merge-account'
import { batchAccount } from '@/usecases/intake/batch-account'
import { batchRows } from '@/usecases/intake/batch-rows'
import { runUndo } from '@/usecases/intake/run-undo'
import { suppress } from '@/usecases/screening/suppress'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
})

const HEADER = 'Id,Name,Role,Organisation,Organisation type,Email,Phone,Address,Town,Postcode,County,Status,Tags\n'
const idOf = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).orderBy('id').first('id')).id
const undone = async (batch: number) => {
  await undoBatch(t.marek, batch)
  await runUndo(batch)
  return (await batchAccount(t.ines, batch)).undone?.counts
}
const start = { id: 's', verb: 'start' as const, off: false, batch: null }
const from = async (batch: number) =>
  (await listAccountFor(t.ines, { lines: [{ ...start, batch: { id: batch, name: 'x' } }], view: { tab: 'on' } })).figures.totals.balance

describe('undoing a batch', () => {
  test('of people: what it created is withdrawn, fields go back, and what was worked on since is kept and told', async () => {
    await broughtIn(
      t.ines,
      'first.csv',
      `${HEADER}U1,Maud Ellery,Bursar,Hallow School,school,maud@example.org,0113 496 0001,1 Mill Lane,Thornmouth,PW1 2AB,Pellow,prospect,roof\nU2,Tomas Brandl,Nurse,Sedge Clinic,clinic,tomas@example.org,,2 Mill Lane,Thornmouth,PW1 2AB,,prospect,\n`,
    )
    const before = await openPerson(t.ines, await idOf('U1'))
    const batch = await broughtIn(
      t.ines,
      'second.csv',
      `${HEADER}U1,Maud Ellery-Hart,Head of estates,Sedge Clinic,hospital,maud.new@example.org,,9 Quay Street,Low Wendle,PW2 1ZZ,Marle,customer,fair\nU2,Tomas Brandl,Practice manager,Sedge Clinic,hospital,,,,,,,,\nU3,New One,Owner,,,new@example.org,,3 Mill Lane,Thornmouth,PW1 2AB,,,\nU4,New Two,Owner,,,two@example.org,,4 Mill Lane,Thornmouth,PW1 2AB,,,\nU1,,,,,,,,,,,,\n`,
    )
    expect((await batchAccount(t.ines, batch)).counts).toEqual({ new: 2, same: 0, updated: 2, 'in doubt': 0, refused: 1 })
    // Worked on since: a role told again by another file, a contact with somebody it created.
    await broughtIn(t.ines, 'third.csv', `${HEADER}U2,Tomas Brandl,Director,,,,,,,,,,\n`)
    await recordContact(t.tam, await idOf('U4'), { channel: 'phone', result: 'spoke' })
    expect(await undone(batch)).toEqual({ withdrawn: 1, 'put back': 1, kept: 2, 'nothing to undo': 1 })
    const after = await openPerson(t.ines, await idOf('U1'))
    const plain = ({ view, relation, tags, postal, addresses }: typeof before) => ({
      name: view.name,
      role: view.role,
      organisation: view.organisation,
      place: view.place,
      relation,
      tags,
      postal,
      values: addresses.map((a) => a.value).sort(),
    })
    expect(plain(after)).toEqual(plain(before))
    expect(await t.app('organisation').where({ name: 'Sedge Clinic' }).first('industry')).toEqual({ industry: 'clinic' })
    const kept = (await batchRows(t.ines, batch, { undone: 'kept' })).rows.map((r) => [r.raw[0], r.undone?.why])
    expect(kept).toEqual([
      ['U2', 'role: worked on since, and kept'],
      ['U4', 'worked on since: a contact'],
    ])
    expect((await openPerson(t.ines, await idOf('U3'))).state).toBe('withdrawn')
    expect(await from(batch)).toBe(0)
    await expect(undoBatch(t.marek, batch)).rejects.toThrow(/undone already/)
    await expect(undoBatch(t.tam, batch)).rejects.toThrow(/coordinators and managers/)
  })

  test('of contacts: each is reversed by an entry, facts and failed addresses go back with it', async () => {
    await recordContact(t.tam, await idOf('U1'), { channel: 'email', result: 'replied', date: '2026-05-01' })
    const facts = async () =>
      t
        .app('facts')
        .where({ person_id: await idOf('U1') })
        .first('last_result', 'attempts')
    const before = await facts()
    const batch = await broughtIn(t.ines, 'bounces.csv', 'Id,Date,Channel,Result\nU1,2026-06-01,email,bounced\n', { kind: 'contacts' })
    const failed = async () =>
      t
        .app('address')
        .where({ person_id: await idOf('U1') })
        .whereNotNull('failed_at')
    expect(await failed()).toHaveLength(1)
    expect(await facts()).toEqual({ last_result: 'bounced', attempts: before.attempts + 1 })
    expect(await undone(batch)).toEqual({ reversed: 1 })
    expect(await failed()).toHaveLength(0)
    expect(await facts()).toEqual(before)
    // The same file again is new, since what it said does not stand.
    expect(
      (
        await batchAccount(
          t.ines,
          await broughtIn(t.ines, 'bounces.csv', 'Id,Date,Channel,Result\nU1,2026-06-01,email,bounced\n', { kind: 'contacts' }),
        )
      ).counts.new,
    ).toBe(1)
  })

  test('of suppressions: they stay', async () => {
    const batch = await broughtIn(t.ines, 'stop.csv', 'Email,Reason\nsomebody@example.org,opt-out\n', { kind: 'suppressions' })
    expect(await undone(batch)).toEqual({ kept: 1 })
    expect(await t.app('suppression_standing').where({ batch_id: batch })).toHaveLength(1)
  })

  test('stopped in the middle it goes on, and nothing is withdrawn or reversed twice', async () => {
    const rows = Array.from({ length: 450 }, (_, i) => `M${i},Many Number${i},Bursar,,,m${i}@example.org,,,,,,,`)
    const batch = await broughtIn(t.ines, 'many.csv', HEADER + rows.join('\n'))
    await undoBatch(t.marek, batch)
    const broken = t.app.client.transaction
    let calls = 0
    t.app.client.transaction = function failing(this: unknown, ...args: unknown[]) {
      if (++calls === 2) throw new Error('the connection is lost')
      return broken.apply(this, args)
    }
    await expect(runUndo(batch)).rejects.toThrow(/connection/)
    t.app.client.transaction = broken
    const halfway = await t.app('batch_row').where({ batch_id: batch }).whereNotNull('undone').count('* as n').first()
    expect(halfway?.n).toBe(200)
    await Promise.all([runUndo(batch), runUndo(batch)])
    expect((await batchAccount(t.ines, batch)).undone?.counts).toEqual({ withdrawn: 450 })
    expect(await t.app('entry').where({ batch_id: batch, kind: 'withdrawn' })).toHaveLength(450)
  })
})

describe('merging two records', () => {
  test('the one that is kept takes over what it lacks; the other’s contacts, suppressions and ids count as its own', async () => {
    await broughtIn(
      t.ines,
      'two.csv',
      `${HEADER}K1,Priya Nandakumar,,,,priya@example.org,,,,,,,\nK2,Pria Nandakumar,Site manager,Hallow Home,care home,pria@example.net,0113 496 0009,7 Mill Lane,Thornmouth,PW1 2AB,Pellow,customer,roof\n`,
    )
    const [keep, merge] = [await idOf('K1'), await idOf('K2')]
    await recordContact(t.tam, merge, { channel: 'phone', result: 'spoke' })
    await addNote(t.tam, merge, 'prefers mornings')
    await suppress(t.tam, { person: merge }, { reason: 'opt-out', channels: ['post'], word: 'a letter' })
    const account = await mergeAccount(t.ines, keep, merge)
    expect(account.takenOver.map((x) => x.field)).toEqual([
      'role',
      'relation',
      'county',
      'organisation',
      'address',
      'tags',
      'email',
      'phone',
    ])
    expect(account.stays).toEqual([
      { field: 'name', kept: 'Priya Nandakumar', other: 'Pria Nandakumar' },
      { field: 'outside id', kept: 'K1', other: 'K2' },
    ])
    expect(account.contacts).toBe(1)
    await mergePeople(t.ines, keep, merge)
    const page = await openPerson(t.ines, keep)
    expect(page.view).toMatchObject({
      role: 'Site manager',
      organisation: 'Hallow Home',
      reach: { email: 'open', phone: 'open', post: 'closed' },
      last: { channel: 'phone', result: 'spoke' },
    })
    expect(page.view.strip).toHaveLength(1)
    expect(page.ledger.map((e) => e.title)).toEqual(
      expect.arrayContaining([
        'Phone · spoke',
        'Note',
        'Suppressed: asked us to stop',
        'Merged: took in Pria Nandakumar',
        'Merged: into Priya Nandakumar',
      ]),
    )
    expect(page.mergedHere).toEqual([{ id: merge, name: 'Pria Nandakumar' }])
    expect((await openPerson(t.ines, merge)).mergedInto).toEqual({ id: keep, name: 'Priya Nandakumar' })
    const { figures, page: shown } = await listAccountFor(t.ines, {
      lines: [
        start,
        { id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'contacted', how: 'within', days: 3, by: null } },
      ],
      view: { tab: 'on' },
    })
    expect(figures.totals.balance).toBe(shown.records.length)
    expect(shown.records.map((p) => p.id)).toContain(keep)
    // A file that still knows them by the old id, or the old name at the same place, finds the one that stays.
    const again = await broughtIn(t.ines, 'again.csv', `${HEADER}K2,Pria Nandakumar,Site manager,,,,,,,,,,\n`)
    expect((await batchAccount(t.ines, again)).counts).toMatchObject({ new: 0, same: 1 })
    pinClock(null)
    pinClock(new Date('2026-06-15T10:00:00Z'))
  })
  test('only two live records, never into itself, and not by a caller', async () => {
    const [keep, merged] = [await idOf('K1'), await idOf('K2')]
    await expect(mergePeople(t.ines, keep, keep)).rejects.toThrow(/into itself/)
    await expect(mergePeople(t.ines, keep, merged)).rejects.toThrow(/not in the directory any more/)
    await expect(mergePeople(t.tam, keep, await idOf('U1'))).rejects.toThrow(/coordinators and managers/)
  })
})
