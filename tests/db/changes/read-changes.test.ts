import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { writeEntries } from '@/db/ledger'
import { pinClock } from '@/runtime/clock'
import { changeSources } from '@/usecases/changes/change-sources'
import { changeKinds, saveKind } from '@/usecases/changes/change-kinds'
import { listAccountFor } from '@/usecases/lists/list-account'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { actOnChange, putOffChange } from '@/usecases/changes/act-on-change'
import { changesPage, lookedAtChanges } from '@/usecases/changes/changes-page'
import { createList } from '@/usecases/lists/create-list'
import { recordContact } from '@/usecases/contact/record-contact'
import { mergePeople } from '@/usecases/directory/merge-people'
import { takeBackMerge } from '@/usecases/directory/take-back-merge'
import { erasePerson } from '@/usecases/directory/erase-person'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { runUndo } from '@/usecases/intake/run-undo'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { said, startEngine } from '../../support/engine'
import { ReadModel } from '@/engine/read-model'

let t: TestDatabase
let engine: Awaited<ReturnType<typeof startEngine>>
const ALL = { tab: 'all' as const, list: null, freshness: null, offset: 0 }
const person = async (name: string): Promise<number> => (await t.app('person').where({ name, state: 'live' }).first('id')).id
const on = (day: string) => pinClock(new Date(`${day}T09:00:00Z`))

const PEOPLE = (role: string, organisation: string) =>
  Buffer.from(
    `Name,Role,Organisation,E-mail\nMarit Ellingsgate,${role},${organisation},marit@wendleside.example\nHanne Visser,Site Manager,Saltrey Fen School,hanne@saltrey.example\n`,
  )
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const estates: Line = { id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'role', any: ['estates'] } }

beforeAll(async () => {
  t = await freshDatabase('2026-06-01T09:00:00Z')
  engine = await startEngine(t)
  await broughtIn(t.ines, 'june.csv', PEOPLE('Facilities Manager', 'Wendleside Clinic'))
  await createList(t.ines, 'Everybody', true, [start])
  await createList(t.ines, 'Estates', true, [start, estates])
  await createList(t.ines, 'Own estates', false, [start, estates])
  await bringChanges()
  await lookedAtChanges(t.ines)
  await lookedAtChanges(t.tam)
})

describe('a change that a file brings', () => {
  let change: number

  test('lies after the last file that said otherwise; lists it brings somebody on say so', async () => {
    on('2026-06-20')
    await broughtIn(t.ines, 'again.csv', PEOPLE('Facilities Manager', 'Wendleside Clinic'))
    on('2026-07-10')
    await broughtIn(t.ines, 'july.csv', PEOPLE('Head of Estates', 'Wendleside Clinic'))
    await bringChanges()
    const { rows, account, asks } = await changesPage(t.ines, ALL)
    expect(rows).toHaveLength(1)
    expect(rows[0]).toMatchObject({
      name: 'Marit Ellingsgate',
      kind: 'Another role',
      asks: 'confirm',
      field: { name: 'role', before: 'Facilities Manager', after: 'Head of Estates' },
      after: '2026-06-20',
      by: '2026-07-10',
      source: 'july.csv',
      sure: 'likely',
      opener: 'You have taken on a new role in June or July.',
    })
    expect(rows[0].lists.map((l) => `${l.is} ${l.name}`)).toEqual(['now fits Estates', 'stays on Everybody', 'now fits Own estates'])
    expect([account.opening, account.closing, asks.confirm]).toEqual([0, 1, 1])
    change = rows[0].id
  })

  test('a colleague hears of it through the lists they may see, and of no other', async () => {
    const { rows } = await changesPage(t.tam, ALL)
    expect(rows.map((row) => row.lists.map((l) => l.name))).toEqual([['Estates', 'Everybody']])
  })

  test('another file that says the same is a second source, and no second change', async () => {
    on('2026-07-12')
    await broughtIn(t.ines, 'who-is-who.csv', PEOPLE('Head of Estates', 'Wendleside Clinic'))
    await bringChanges()
    const { rows } = await changesPage(t.ines, ALL)
    expect(rows).toHaveLength(1)
    expect(rows[0]).toMatchObject({ id: change, sources: 2 })
  })

  test('of two who take it, the second is told whose it is; handled, it leaves both accounts', async () => {
    const both = await Promise.allSettled([actOnChange(t.tam, change, 'take'), actOnChange(t.ines, change, 'take')])
    expect(both.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected'])
    const owner = both[0].status === 'fulfilled' ? t.tam : t.ines
    await expect(actOnChange(owner === t.tam ? t.ines : t.tam, change, 'handle')).rejects.toThrow(/has taken this/)
    await actOnChange(owner, change, 'handle')
    for (const actor of [t.ines, t.tam]) {
      const { account, rows } = await changesPage(actor, ALL)
      expect(rows).toEqual([])
      expect(account.closing).toBe(0)
      expect(account.went.find((line) => line.why === (actor === owner ? 'handled by you' : 'handled by others'))?.n).toBe(1)
    }
    await actOnChange(t.ines, change, 'reopen')
    expect((await changesPage(t.tam, ALL)).account.closing).toBe(1)
  })

  test('put off, it leaves one account until its day comes', async () => {
    await lookedAtChanges(t.ines)
    await putOffChange(t.ines, change, '2026-07-20')
    const put = await changesPage(t.ines, ALL)
    expect([put.account.opening, put.account.closing, put.account.went.find((l) => l.why === 'put off')?.n]).toEqual([1, 0, 1])
    expect((await changesPage(t.tam, ALL)).account.closing).toBe(1)
    await lookedAtChanges(t.ines)
    on('2026-07-20')
    const due = await changesPage(t.ines, ALL)
    expect([due.account.opening, due.account.closing, due.account.came.find((l) => l.why === 'put off')?.n]).toEqual([0, 1, 1])
    await expect(putOffChange(t.ines, change, '2026-07-20')).rejects.toThrow(/still to come/)
  })
})

describe('somebody who leaves a list by a change', () => {
  test('is told of, since the list is asked as it stood before, too', async () => {
    on('2026-08-01')
    await broughtIn(t.ines, 'august.csv', PEOPLE('Deputy Head Teacher', 'Wendleside Clinic'))
    await bringChanges()
    const { rows } = await changesPage(t.ines, ALL)
    const [row] = rows.filter((r) => r.field?.after === 'Deputy Head Teacher')
    expect(row.lists.map((l) => `${l.is} ${l.name}`)).toEqual([
      'no longer fits Estates',
      'stays on Everybody',
      'no longer fits Own estates',
    ])
  })

  test('reading everything anew changes nothing', async () => {
    const before = await t.owner('change').orderBy('id')
    await t.owner.raw('insert into change_due (person_id) select id from person')
    await bringChanges()
    expect(await t.owner('change').orderBy('id')).toEqual(before)
  })

  test('undoing the file takes the change back, and says why it counts no more', async () => {
    const batch = await t.app('batch').where({ file_name: 'august.csv' }).first('id')
    await undoBatch(t.ines, batch.id)
    await runUndo(batch.id)
    await bringChanges()
    const page = await changesPage(t.ines, ALL)
    expect(page.rows.filter((r) => r.field?.after === 'Deputy Head Teacher')).toEqual([])
    expect(await t.app('change').whereNotNull('gone_at').pluck('gone_why')).toEqual(['undone'])
    expect(page.rows.map((r) => r.field?.after)).toEqual(['Head of Estates'])
  })
})

describe('what is not a file', () => {
  test('a bounce asks for the address to be confirmed; a reply waits for an answer beside the contact before it', async () => {
    on('2026-09-01')
    const hanne = await person('Hanne Visser')
    await recordContact(t.tam, hanne, { channel: 'email', result: 'sent', note: null })
    on('2026-09-03')
    await recordContact(t.tam, hanne, { channel: 'email', result: 'replied', note: null })
    on('2026-09-05')
    await recordContact(t.tam, hanne, { channel: 'email', result: 'bounced', note: null })
    await bringChanges()
    const { rows } = await changesPage(t.ines, ALL)
    const own = rows.filter((r) => r.name === 'Hanne Visser')
    expect(own.map((r) => [r.asks, r.kind, r.by])).toEqual([
      ['answer', 'Replied', '2026-09-03'],
      ['confirm', 'An address failed', '2026-09-05'],
    ])
    expect(own[0].after_contact).toMatch(/^2026-09-01.*Tam Reyes$/)
  })

  test('a report that changes no field is a change of its own; told twice by its link on one day it is one', async () => {
    const hanne = await person('Hanne Visser')
    const kind = (await t.app('change_kind').where({ key: 'storm' }).first('id')).id
    for (const source of ['county wire', 'farm weekly']) {
      const [entry] = await writeEntries(
        t.app,
        [{ person: hanne, kind: 'reported', at: new Date(), actor: t.ines.id, after: 'https://wire.example/7', note: 'roof torn off' }],
        new Date('2026-09-05T09:00:00Z'),
      )
      await t
        .app('report')
        .insert({ entry_id: entry, kind_id: kind, seen_on: '2026-09-04', stated: true, source, same: [Buffer.from('k')] })
    }
    await bringChanges()
    const [row] = (await changesPage(t.ines, { ...ALL, tab: 'opening' })).rows
    expect(row).toMatchObject({ text: 'roof torn off', link: 'https://wire.example/7', sources: 2, sure: 'stated', by: '2026-09-04' })
    expect(row.opener).toBe('We hear that your roof was damaged on 4 September.')
  })
})

describe('lists ask of changes', () => {
  const on = async (line: object) =>
    (
      await listAccountFor(t.ines, {
        lines: [start, { id: 'c', verb: 'keep', off: false, unknownAsYes: false, criterion: line }],
        view: { tab: 'on' },
      })
    ).figures.lines[1]
  const asked = { asks: [], kinds: [], days: null, by: 'happened', least: 1, state: 'any' }

  test('of people and of their organisations; handled ones apart; what is not proved within the days is unknown', async () => {
    pinClock(new Date('2026-09-05T12:00:00Z'))
    // Marit has another role; Hanne replied, has an address that failed, and her roof was torn off.
    expect((await on({ ...asked, kind: 'changed' })).balance).toBe(2)
    expect((await on({ ...asked, kind: 'changed', least: 2 })).balance).toBe(1)
    expect((await on({ ...asked, kind: 'changed', asks: ['answer'] })).balance).toBe(1)
    // Marit's lies between 21 June and 10 July: sixty-five days back fall into it.
    const role = { ...asked, kind: 'changed', asks: ['confirm'] }
    expect(await on({ ...role, days: 80 })).toMatchObject({ balance: 2, unknown: 0 })
    expect(await on({ ...role, days: 65 })).toMatchObject({ balance: 1, unknown: 1 })
    expect(await on({ ...role, days: 20 })).toMatchObject({ balance: 1, unknown: 0 })
    expect((await on({ ...asked, kind: 'org-changed' })).balance).toBe(0)
    // By what was said and who said it: words of a report, of a contact, the new role; two sources of one change.
    const having = async (of: object) => (await on({ ...asked, kind: 'changed', ...of })).balance
    expect(await having({ words: ['torn off', 'glacier'] })).toBe(1)
    expect(await having({ words: ['off torn'] })).toBe(0)
    expect(await having({ words: ['head of estate'] })).toBe(1)
    expect(await having({ words: ['facilities'] })).toBe(0)
    expect(await having({ words: ['torn off'], sources: ['farm weekly'] })).toBe(1)
    expect(await having({ words: ['torn off'], sources: ['contacts'] })).toBe(0)
    expect(await having({ sources: ['county wire', 'farm'] })).toBe(1)
    expect(await having({ sources: ['wire farm'] })).toBe(0)
    expect(await having({ asks: ['confirm'], sources: ['csv'] })).toBeGreaterThan(0)
    expect(await changeSources(t.tam)).toEqual(expect.arrayContaining(['county wire', 'farm weekly', 'contacts', 'entered by hand']))
    // Whoever reads everything at once reads the same.
    const fresh = new ReadModel(t.app)
    await fresh.catchUp()
    expect(said(fresh)).toEqual(said(engine.model))
    expect(
      said(fresh)
        .flatMap(({ changes }) => changes)
        .join(),
    ).toMatch(/roof torn off/)
    const marit = await t
      .app('change')
      .where({ person_id: await person('Marit Ellingsgate') })
      .whereNull('gone_at')
      .first('id')
    await actOnChange(t.ines, marit.id, 'handle')
    expect((await on({ ...asked, kind: 'changed', state: 'unhandled' })).balance).toBe(1)
    expect((await on({ ...asked, kind: 'changed', state: 'handled' })).balance).toBe(1)
    await actOnChange(t.ines, marit.id, 'reopen')
  })

  test('another meaning of a kind counts at once', async () => {
    const kind = (await changeKinds(t.ines)).find((own) => own.name === 'Storm damage')
    await saveKind(t.ines, kind?.id as number, { name: 'Storm damage', asks: 'reconsider', freshDays: 30, opener: null })
    expect((await on({ ...asked, kind: 'changed', asks: ['opening'] })).balance).toBe(0)
    expect((await on({ ...asked, kind: 'changed', asks: ['reconsider'] })).balance).toBe(1)
    await expect(saveKind(t.ines, null, { name: ' storm DAMAGE', asks: 'opening' })).rejects.toThrow(/already/)
    await expect(saveKind(t.tam, null, { name: 'Moved in', asks: 'opening' })).rejects.toThrow(/coordinators/)
  })
})

describe('records that become one, and go', () => {
  test('changes of a record that is merged go with it, with what became of them, and come back with it', async () => {
    const twin = await t.app('person').where({ name: 'Hanne Visser', state: 'live' }).first('id')
    await broughtIn(t.ines, 'twin.csv', Buffer.from('Name,Role,E-mail\nJohanna Visser,Caretaker,johanna@saltrey.example\n'))
    const keep = await person('Johanna Visser')
    const [change] = await t.app('change').where({ person_id: twin.id }).orderBy('id')
    await actOnChange(t.tam, change.id, 'take')
    await mergePeople(t.ines, keep, twin.id)
    await bringChanges()
    expect(await t.app('change').where({ id: change.id }).first('person_id', 'state', 'gone_at')).toEqual({
      person_id: keep,
      state: 'taken',
      gone_at: null,
    })
    await takeBackMerge(t.ines, twin.id)
    await bringChanges()
    expect(await t.app('change').where({ id: change.id }).first('person_id', 'state', 'gone_at')).toEqual({
      person_id: twin.id,
      state: 'taken',
      gone_at: null,
    })
  })

  test('an erasure takes the words and keeps the account closed', async () => {
    await lookedAtChanges(t.ines)
    const { account: before } = await changesPage(t.ines, ALL)
    const hanne = await person('Hanne Visser')
    await erasePerson(t.marek, hanne)
    await bringChanges()
    const { account, rows } = await changesPage(t.ines, ALL)
    expect(rows.some((r) => r.record === hanne)).toBe(false)
    expect(account.went.find((l) => l.why === 'gone')?.n).toBe(before.closing - account.closing)
    expect(account.closing).toBe(before.closing - 3)
  })
})
