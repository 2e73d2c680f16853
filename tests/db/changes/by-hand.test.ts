import { Readable } from 'node:stream'
import { beforeAll, describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { actOnChange } from '@/usecases/changes/act-on-change'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { changeKinds } from '@/usecases/changes/change-kinds'
import { changesOf } from '@/usecases/changes/changes-of'
import { changesPage, lookedAtChanges } from '@/usecases/changes/changes-page'
import { decideChange } from '@/usecases/changes/decide-change'
import { followRecord, following } from '@/usecases/changes/following'
import { undoDecision } from '@/usecases/changes/undo-decision'
import { importChanges } from '@/usecases/changes/import-changes'
import { reportByHand } from '@/usecases/changes/report-by-hand'
import { batchAccount } from '@/usecases/intake/batch-account'
import { settleRow } from '@/usecases/intake/settle-row'
import { openPerson } from '@/usecases/directory/open-person'
import { erasePerson } from '@/usecases/directory/erase-person'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
const ALL = { tab: 'all' as const, list: null, freshness: null, offset: 0 }
const person = async (name: string): Promise<number> => (await t.app('person').where({ name, state: 'live' }).orderBy('id').first('id')).id
const plain = { kind: null, moved: null, after: null, successor: null, text: null, link: null, day: '2026-06-14', stated: true }

beforeAll(async () => {
  t = await freshDatabase('2026-05-01T09:00:00Z')
  await startEngine(t)
  await broughtIn(
    t.ines,
    'may.csv',
    Buffer.from(
      'Name,Role,Organisation,E-mail,Street,Town,Postcode\n' +
        'Basil Thorne-Ashe,Head Brewer,Farrowbridge Brewery,basil@farrowbridge.example,1 Maltings,Farrowbridge,PW3 1AA\n' +
        'Una Merrow,Assistant Brewer,Farrowbridge Brewery,una@farrowbridge.example,,,\n' +
        'Nils Askew,Caretaker,Saltrey Fen School,nils.askew@mail.example,,,\n',
    ),
  )
  pinClock(new Date('2026-06-15T09:00:00Z'))
  await bringChanges()
})

describe('somebody who left', () => {
  test('is reported with a successor, who waits in doubt beside whoever has that name; nobody is renamed', async () => {
    const basil = await person('Basil Thorne-Ashe')
    await reportByHand(t.ines, { ...plain, of: 'person', record: basil, moved: 'left', successor: 'Una Merrow', text: 'said on the phone' })
    await bringChanges()
    const [left] = (await changesOf(t.ines, 'person', basil)).rows
    expect(left).toMatchObject({ kind: 'Left the organisation', source: 'told by Ines Okafor', decide: 'left', by: '2026-06-14' })
    const batch = (await t.app('batch').orderBy('id', 'desc').first('id')).id
    expect((await batchAccount(t.ines, batch)).counts).toMatchObject({ 'in doubt': 1 })
    const row = await t.app('batch_row').where({ batch_id: batch }).first()
    expect([row.raw, row.candidates, row.reason]).toEqual([
      ['Una Merrow', 'Head Brewer', 'Farrowbridge Brewery'],
      [await person('Una Merrow')],
      'named by Ines Okafor as the successor in this role',
    ])
    // The row is the successor's: whoever left is named nowhere in it, so that an erasure of them leaves nothing there.
    expect(JSON.stringify([row, await t.app('batch').where({ id: batch }).first()])).not.toMatch(/Basil|Thorne/)
    // She was there already, in another role.
    await settleRow(t.ines, batch, 1, { person: row.candidates[0] })
    expect((await openPerson(t.ines, row.candidates[0])).view).toMatchObject({ name: 'Una Merrow', role: 'Head Brewer' })
    expect((await openPerson(t.ines, basil)).view).toMatchObject({ name: 'Basil Thorne-Ashe', role: 'Head Brewer' })
  })

  test('and moved: the email and the letters of the old organisation are closed, those of their own stay', async () => {
    const basil = await person('Basil Thorne-Ashe')
    await reportByHand(t.tam, { ...plain, of: 'person', record: basil, moved: 'organisation', after: 'Larch House', day: '2026-06-15' })
    await bringChanges()
    const moved = (await changesOf(t.ines, 'person', basil)).rows.find((row) => row.field?.after === 'Larch House')
    const { closed } = await decideChange(t.ines, moved?.id as number, 'confirm')
    expect(closed).toEqual(['basil@farrowbridge.example'])
    const { view, addresses } = await openPerson(t.ines, basil)
    expect(view.organisation).toBe('Larch House')
    expect(addresses.find((a) => a.channel === 'email')?.suppressed).toBeTruthy()
    // Taken back, everything is as it was; confirmed once more, it is so again.
    await expect(undoDecision(t.tam, moved?.id as number)).rejects.toThrow(/colleague confirmed/)
    const twice = await Promise.allSettled([undoDecision(t.ines, moved?.id as number), undoDecision(t.ines, moved?.id as number)])
    expect(twice.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected'])
    const back = await openPerson(t.ines, basil)
    expect([back.view.organisation, back.view.role]).toEqual(['Farrowbridge Brewery', 'Head Brewer'])
    expect(back.addresses.find((a) => a.channel === 'email')?.suppressed).toBeNull()
    expect(back.addresses.find((a) => a.channel === 'post')?.value).toBe('1 Maltings, Farrowbridge, PW3 1AA')
    await bringChanges()
    const again = (await changesOf(t.ines, 'person', basil)).rows.find((row) => row.field?.after === 'Larch House')
    expect([again?.id, again?.state, again?.sources]).toEqual([moved?.id, 'open', 1])
    await decideChange(t.ines, moved?.id as number, 'confirm')
    // Opened again without the record it would be confirmed twice, and taken back once.
    await expect(actOnChange(t.ines, moved?.id as number, 'reopen')).rejects.toThrow(/Take the confirmation back/)
    await t.owner('person').where({ id: basil }).update({ organisation_id: null })
    await expect(undoDecision(t.ines, moved?.id as number)).rejects.toThrow(/was changed since/)
    // A provider everybody uses is not the school's.
    const nils = await person('Nils Askew')
    await reportByHand(t.tam, { ...plain, of: 'person', record: nils, moved: 'left' })
    await bringChanges()
    const [left] = (await changesOf(t.ines, 'person', nils)).rows
    expect((await decideChange(t.ines, left.id, 'confirm')).closed).toEqual([])
    expect((await openPerson(t.ines, nils)).addresses[0].suppressed).toBeNull()
  })
})

describe('what is reported by hand', () => {
  test('is refused where it cannot be, and says what is missing', async () => {
    const una = await person('Una Merrow')
    const kind = (await changeKinds(t.ines)).find((own) => own.name === 'Storm damage')?.id
    const says = (more: object) => expect(reportByHand(t.tam, { ...plain, of: 'person', record: una, kind, ...more })).rejects
    await says({ day: '2026-06-16' }).toThrow(/still to come/)
    await says({ day: '2026-02-30' }).toThrow(/Give the day/)
    await says({ link: 'javascript:alert(1)' }).toThrow(/A link begins/)
    await says({ record: 999_999 }).toThrow(/no such record/)
    await says({ kind: 999_999 }).toThrow(/kind of change does not exist/)
    await says({ moved: 'left' }).toThrow(/Choose what happened/)
    await says({ kind: null, moved: 'role' }).toThrow(/what the new role is/)
    await says({ kind: null, moved: 'left', successor: 'Ann Other' }).toThrow(/for coordinators/)
    await says({ kind: null, moved: 'left', of: 'organisation', record: 1 }).toThrow(/Only people/)
    await expect(reportByHand(t.ines, { ...plain, of: 'person', record: await person('Nils Askew'), moved: 'left' })).rejects.toThrow(
      /No organisation is known/,
    )
    expect(await t.app('entry').where({ kind: 'reported', person_id: una })).toEqual([])
  })

  test('reaches whoever follows the record by itself, from then on; a change of before reaches as far back as they chose', async () => {
    const school = (await t.app('organisation').where({ name: 'Saltrey Fen School' }).first('id')).id
    await lookedAtChanges(t.tam)
    const kind = (await changeKinds(t.ines)).find((own) => own.name === 'Storm damage')?.id
    await reportByHand(t.ines, { ...plain, of: 'organisation', record: school, kind, text: 'the gale took the roof' })
    await bringChanges()
    expect((await changesPage(t.tam, ALL)).rows).toEqual([])
    pinClock(new Date('2026-06-15T09:05:00Z'))
    await followRecord(t.tam, 'organisation', school, true)
    await followRecord(t.tam, 'organisation', school, true)
    const page = await changesPage(t.tam, ALL)
    expect(page.rows.map((row) => [row.kind, row.text])).toEqual([['Storm damage', 'the gale took the roof']])
    expect(page.account.came.find((line) => line.why === 'newly followed')?.n).toBe(1)
    expect((await following(t.tam)).records).toEqual([{ of: 'organisation', id: school, name: 'Saltrey Fen School' }])
    await followRecord(t.tam, 'organisation', school, false)
    expect((await changesPage(t.tam, ALL)).rows).toEqual([])
    await expect(followRecord(t.tam, 'organisation', 999_999, true)).rejects.toThrow(/no such record/)
  })

  test('goes with an erasure: its words and its link', async () => {
    const una = await person('Una Merrow')
    const kind = (await changeKinds(t.ines)).find((own) => own.name === 'Wrote or spoke in public')?.id
    await reportByHand(t.ines, { ...plain, of: 'person', record: una, kind, text: 'on malt', link: 'https://wire.example/una-merrow' })
    await erasePerson(t.marek, una)
    await bringChanges()
    const values = await t
      .owner('entry as e')
      .join('entry_value as v', 'v.id', 'e.value_id')
      .where('e.person_id', una)
      .select('v.before', 'v.after', 'v.note')
    expect(values.length).toBeGreaterThan(0)
    expect(values.every((v) => v.before === null && v.after === null && v.note === null)).toBe(true)
    expect(await t.app('change').where({ person_id: una }).whereNull('gone_at')).toEqual([])
  })
})

describe('a file of changes', () => {
  const file = (name: string, text: string) => importChanges(t.ines, { name, bytes: Readable.from([Buffer.from(text)]) })

  test('each row is reported, known, about nobody, in doubt or refused, and a second time nothing is new', async () => {
    const rows =
      'Person;Organisation;What;After;Day;Note\n' +
      'Nils Askew;;New role;Head Caretaker;01.06.2026;\n' +
      ';Farrowbridge Brewery;storm damage;;02.06.2026;the mash house roof\n' +
      'Nobody Here;Farrowbridge Brewery;left;;02.06.2026;\n' +
      ';Farrowbridge Brewery;eclipse;;02.06.2026;\n' +
      ';Farrowbridge Brewery;storm damage;;02.06.2026;the mash house roof\n'
    const brewery = (await t.app('organisation').where({ name: 'Farrowbridge Brewery' }).first('id')).id
    const nils = await person('Nils Askew')
    await t.owner('person').where({ id: nils }).update({ organisation_id: brewery })
    const first = await file('news.csv', rows.replace('Nils Askew;;', 'Nils Askew;Farrowbridge Brewery;'))
    expect(first).toMatchObject({ rows: 5, reported: 2, known: 1, nobody: 1, inDoubt: 0, refused: 1 })
    expect(first.not).toEqual([
      { row: 3, why: 'it is about nobody in the directory' },
      { row: 4, why: 'we know no “eclipse”' },
    ])
    await bringChanges()
    expect((await changesOf(t.ines, 'person', nils)).rows.map((row) => row.field?.after)).toContain('Head Caretaker')
    expect((await changesOf(t.ines, 'organisation', brewery)).rows.map((row) => [row.text, row.source])).toEqual([
      ['the mash house roof', 'news.csv'],
    ])
    const again = await file('news.csv', rows.replace('Nils Askew;;', 'Nils Askew;Farrowbridge Brewery;'))
    expect(again).toMatchObject({ rows: 5, reported: 0, known: 5 })
  })

  test('one that cannot be read stores nothing and says what is missing; it is for coordinators', async () => {
    const before = await t.app('entry').count('* as n').first()
    await expect(file('odd.csv', 'Colour;Shape\nred;round\n')).rejects.toThrow(/No column says what happened.*Nothing was imported/)
    await expect(importChanges(t.tam, { name: 'x.csv', bytes: Readable.from([Buffer.from('What,Day,Person\n')]) })).rejects.toThrow(
      /coordinators/,
    )
    expect(await t.app('entry').count('* as n').first()).toEqual(before)
  })
})
