import { beforeAll, describe, expect, test } from 'vitest'
import type { Criterion } from '@/core/criteria/registry'
import type { Shaping } from '@/core/match/shaping'
import { batchOf } from '@/usecases/intake/batch-for'
import { listCustomFields } from '@/usecases/directory/custom-fields'
import { openPerson } from '@/usecases/directory/open-person'
import { listAccountFor } from '@/usecases/lists/list-account'
import { mappingProfiles } from '@/usecases/intake/mapping-profiles'
import { mergePeople } from '@/usecases/directory/merge-people'
import { receiveFile } from '@/usecases/intake/receive-file'
import { openRowInDoubt } from '@/usecases/intake/row-in-doubt'
import { runBatch } from '@/usecases/intake/run-batch'
import { settleRow } from '@/usecases/intake/settle-row'
import { takeBackMerge } from '@/usecases/directory/take-back-merge'
import { tryBatch } from '@/usecases/intake/try-batch'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { startEngine } from '../../support/engine'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { declareField } from '@/usecases/directory/declare-field'
import { setCustom } from '@/usecases/directory/set-custom'
import { mergeAccount } from '@/usecases/directory/merge-account'
import { batchAccount } from '@/usecases/intake/batch-account'
import { batchRows } from '@/usecases/intake/batch-rows'
import { previewBatch } from '@/usecases/intake/preview-batch'
import { startBatch } from '@/usecases/intake/start-batch'
import { saveProfile } from '@/usecases/intake/save-profile'
import { applyProfile } from '@/usecases/intake/apply-profile'
import { dropProfile } from '@/usecases/intake/drop-profile'
import { runTrial } from '@/usecases/intake/run-trial'
import { runUndo } from '@/usecases/intake/run-undo'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
})
const counts = async (id: number) => (await batchAccount(t.ines, id)).counts
const idOf = async (name: string): Promise<number> => (await t.app('person').where({ name, state: 'live' }).first('id')).id
const received = (name: string, csv: string) => receiveFile(t.ines, { name, bytes: Buffer.from(csv), kind: 'people' })
const valuesOf = async (person: number) =>
  Object.fromEntries((await openPerson(t.ines, person)).custom.flatMap(({ field, value }) => (value === null ? [] : [[field.name, value]])))

describe('columns are cut, joined and reworded', () => {
  const CSV = 'Who,No,Road,Mail,Garden\n"Ellery, Maud",4,Mill Lane,maud@example.org,cell\n"Reed, Cato",9,Quay Street,cato@example.org,\n'
  const shaping: Shaping = {
    made: [
      { is: 'part', of: 0, at: ',', part: 1, last: false },
      { is: 'part', of: 0, at: ',', part: 2, last: true },
      { is: 'joined', of: [1, 2], with: ' ' },
      { is: 'always', value: 'Thornmouth' },
    ],
    words: { 4: [['cell', 'allotment']] },
  }
  const mapping = [null, null, null, 'email', 'tags', 'family', 'given', 'street', 'town']

  test('what comes in is what was shown before, and the row is kept as it came', async () => {
    const id = await received('visitors.csv', CSV)
    const preview = await previewBatch(t.ines, id, { kind: 'people', mapping, shaping })
    expect(preview.header.slice(5)).toEqual(['Who, part 1', 'Who, the rest', 'No + Road', 'always “Thornmouth”'])
    expect(preview.words[4]).toEqual(['cell'])
    expect(preview.rows[0].stored).toMatchObject({
      name: { name: 'Maud Ellery' },
      postal: { street: '4 Mill Lane', town: 'Thornmouth' },
      tags: ['allotment'],
    })
    await saveProfile(t.ines, id, { kind: 'people', mapping, shaping }, 'Visitors’ cards')
    await startBatch(t.ines, id, { kind: 'people', mapping, shaping }, {})
    await runBatch(id)
    expect(await counts(id)).toMatchObject({ new: 2 })
    const page = await openPerson(t.ines, await idOf('Maud Ellery'))
    expect(page).toMatchObject({ postal: '4 Mill Lane, Thornmouth', tags: ['allotment'] })
    expect(page.came[0].cells[0]).toEqual({ title: 'Who', cell: 'Ellery, Maud' })
  })

  test('the same columns are made the same way the next time; a saved mapping fits other files by their titles', async () => {
    const again = await batchOf(await received('visitors-2.csv', CSV.replace('Maud', 'Mo').replace('Cato', 'Cy')))
    expect(again).toMatchObject({ mapping, shaping })
    const other = await received('other.csv', 'Mail,Who,Road\nx@example.org,"A, B",Mill Lane\n')
    const [profile] = await mappingProfiles(t.tam)
    expect(profile).toMatchObject({ name: 'Visitors’ cards', kind: 'people', by: 'Ines Okafor' })
    const applied = await applyProfile(t.ines, other, profile.id)
    expect(applied).toMatchObject({ missing: ['No', 'Garden'], mapping: ['email', null, null, 'family', 'given', 'town'] })
    expect((await previewBatch(t.ines, other, applied)).rows[0].stored).toMatchObject({ name: { given: 'B', family: 'A' } })
    // The same name once more is the mapping that was there.
    await saveProfile(t.marek, other, applied, 'VISITORS’ CARDS')
    expect(await mappingProfiles(t.tam)).toMatchObject([{ name: 'VISITORS’ CARDS', by: 'Marek Dunn' }])
    await expect(saveProfile(t.tam, other, applied, 'Mine')).rejects.toThrow(/coordinators and managers/)
    await dropProfile(t.ines, profile.id)
    expect(await mappingProfiles(t.ines)).toEqual([])
    await expect(applyProfile(t.ines, other, profile.id)).rejects.toThrow('no such mapping')
  })

  test('what cannot be made is refused, and nothing is written', async () => {
    const id = await received('refused.csv', 'Who\nA B\n')
    for (const bad of [
      { made: [{ is: 'part', of: 4, at: ',', part: 1, last: true }] },
      { made: 'x' },
      { words: { 0: [['a']] } },
      { more: 1 },
    ])
      await expect(previewBatch(t.ines, id, { shaping: bad as never })).rejects.toThrow('The columns cannot be made so')
    await expect(
      startBatch(t.ines, id, { kind: 'people', mapping: ['name'], shaping: { made: [{ is: 'always', value: 'x' }] } }, {}),
    ).rejects.toThrow('does not fit')
    await expect(startBatch(t.ines, id, { kind: 'people', mapping: ['custom:99'] }, {})).rejects.toThrow('There is no field custom:99.')
    expect(await batchOf(id)).toMatchObject({ state: 'mapping', shaping: {} })
  })
})

describe('fields of our own', () => {
  test('declared once, by a coordinator, under a name of its own', async () => {
    await declareField(t.ines, { name: ' Roof  seen ', kind: 'yes or no', choices: [] })
    await declareField(t.ines, { name: 'Butts', kind: 'number', choices: [] })
    await declareField(t.marek, { name: 'Soil', kind: 'choice', choices: ['Clay', 'clay ', 'Chalk', ''] })
    expect(await listCustomFields(t.ines)).toMatchObject([
      { name: 'Roof seen', choices: [] },
      { name: 'Butts' },
      { name: 'Soil', choices: ['clay', 'Chalk'] },
    ])
    for (const [asked, why] of [
      [{ name: 'roof seen', kind: 'text' }, /already/],
      [{ name: 'Email', kind: 'text' }, /every person has/],
      [{ name: '', kind: 'text' }, /name/],
      [{ name: 'X', kind: 'picture' }, /holds text/],
      [{ name: 'X', kind: 'choice', choices: ['one'] }, /at least two/],
    ] as const)
      await expect(declareField(t.ines, { choices: [], ...asked } as never)).rejects.toThrow(why)
    await expect(declareField(t.tam, { name: 'X', kind: 'text', choices: [] })).rejects.toThrow(/coordinators and managers/)
  })

  test('they come in with files, are asked about in lists, and changed by hand; every change is in the ledger', async () => {
    const file =
      'Name,Email,Roof seen,Butts,Soil\nPia Marl,pia@example.org,Y,3,CHALK\nOle Fenn,ole@example.org,no,,\nSten Kell,sten@example.org,perhaps,12,sand\n'
    const id = await broughtIn(t.ines, 'roofs.csv', file)
    expect(await counts(id)).toMatchObject({ new: 3 })
    const [pia, ole, sten] = [await idOf('Pia Marl'), await idOf('Ole Fenn'), await idOf('Sten Kell')]
    expect(await valuesOf(pia)).toEqual({ 'Roof seen': 'yes', Butts: '3', Soil: 'Chalk' })
    expect(await valuesOf(sten)).toEqual({ Butts: '12' })
    const rows = (await batchRows(t.ines, id, { outcome: 'new' })).rows
    expect(rows.find((r) => r.person?.id === sten)?.reason).toMatch(
      /“perhaps” is neither yes nor no of Roof seen and was left out, “sand” is none of the choices of Soil/,
    )

    await startEngine(t)
    const [seen, butts] = await listCustomFields(t.ines)
    const names = async (criterion: Criterion) => {
      const { page, figures } = await listAccountFor(t.ines, {
        lines: [
          { id: 's', verb: 'start', off: false, batch: null },
          { id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion },
        ],
        view: { tab: 'on' },
      })
      return { names: page.records.map((p) => p.title), unknown: figures.lines[1].unknown }
    }
    const live = Number((await t.app('person').where({ state: 'live' }).count('id as n').first())?.n)
    const asked: Criterion = {
      kind: 'custom',
      field: { id: seen.id, name: 'Roof seen', of: 'yes or no' },
      any: ['yes'],
      least: null,
      most: null,
    }
    expect(await names(asked)).toEqual({ names: ['Pia Marl'], unknown: live - 2 })
    expect(await names({ kind: 'custom', field: { id: butts.id, name: 'Butts', of: 'number' }, any: [], least: '4', most: null })).toEqual({
      names: ['Sten Kell'],
      unknown: live - 2,
    })
    await setCustom(t.tam, ole, seen.id, 'yes')
    await expect(setCustom(t.tam, ole, butts.id, 'a few')).rejects.toThrow('“a few” cannot be a value of Butts.')
    expect((await names(asked)).names).toEqual(['Ole Fenn', 'Pia Marl'])
    expect((await openPerson(t.ines, ole)).ledger[0]).toMatchObject({ title: 'Roof seen: no → yes', by: 'Tam Reyes' })
  })

  test('a file changes them by its rule, and undoing it puts them back unless they were worked on since', async () => {
    const [pia, ole] = [await idOf('Pia Marl'), await idOf('Ole Fenn')]
    const [seen] = await listCustomFields(t.ines)
    const id = await broughtIn(
      t.ines,
      'later.csv',
      'Name,Email,Roof seen,Butts\nPia Marl,pia@example.org,no,\nOle Fenn,ole@example.org,no,5\n',
    )
    expect(await counts(id)).toMatchObject({ updated: 2 })
    expect((await batchRows(t.ines, id, { outcome: 'updated' })).rows.map((r) => r.reason?.split(' · ')[0])).toEqual([
      'Roof seen',
      'Roof seen, Butts',
    ])
    expect([await valuesOf(pia), await valuesOf(ole)]).toMatchObject([
      { 'Roof seen': 'no', Butts: '3' },
      { 'Roof seen': 'no', Butts: '5' },
    ])
    await setCustom(t.ines, pia, seen.id, '')
    await undoBatch(t.ines, id)
    await runUndo(id)
    expect([await valuesOf(pia), await valuesOf(ole)]).toEqual([{ Butts: '3', Soil: 'Chalk' }, { 'Roof seen': 'yes' }])
    const blanks = await broughtIn(t.ines, 'blanks.csv', 'Name,Email,Roof seen,Butts\nOle Fenn,ole@example.org,no,7\n', {
      rules: { 'own fields': 'blanks' },
    })
    expect((await batchRows(t.ines, blanks, { outcome: 'updated' })).rows[0].reason).toMatch(
      /^Butts · known by email and name · kept as it was: own fields/,
    )
    expect(await valuesOf(ole)).toEqual({ 'Roof seen': 'yes', Butts: '7' })
  })

  test('a merge fills what is missing, and taking it back gives it up again', async () => {
    const [pia, ole] = [await idOf('Pia Marl'), await idOf('Ole Fenn')]
    expect(await mergeAccount(t.ines, pia, ole)).toMatchObject({
      takenOver: expect.arrayContaining([{ field: 'Roof seen', value: 'yes' }]),
      stays: expect.arrayContaining([{ field: 'Butts', kept: '3', other: '7' }]),
    })
    await mergePeople(t.ines, pia, ole)
    expect(await valuesOf(pia)).toEqual({ 'Roof seen': 'yes', Butts: '3', Soil: 'Chalk' })
    await takeBackMerge(t.ines, ole)
    expect([await valuesOf(pia), await valuesOf(ole)]).toEqual([
      { Butts: '3', Soil: 'Chalk' },
      { 'Roof seen': 'yes', Butts: '7' },
    ])
  })
})

describe('rows are matched by likeness', () => {
  const HEAD = 'First name,Last name,Role,Organisation,Email,Phone,Address,Town,Postcode\n'
  const KNOWN = [
    'Elizabeth,Harrowgate,Bursar,Sedge Primary School,e.harrowgate@sedge.example,0113 496 0101,4 Mill Lane,Thornmouth,PW1 2AB',
    'Tobias,Quennell,Caretaker,Hallow Clinic,,0113 496 0102,9 Quay Street,Low Wendle,PW2 1ZZ',
    'Tobin,Quenell,Porter,Hallow Clinic,,,,Low Wendle,PW2 1ZZ',
  ]
  test('a short form with a slip is the same; whoever may be one or another is in doubt; a namesake elsewhere is new', async () => {
    await broughtIn(t.ines, 'known.csv', HEAD + KNOWN.join('\n'), { byKeysAlone: true })
    const csv = `${HEAD}Liz,Harowgate,Head of estates,Sedge Primary School,,0113 496 0101,4 Mill Lane,Thornmouth,PW1 2AB\nTobi,Quennell,,Hallow Clinic,,,,,\nElizabeth,Marlow,,Fen Brewery,,,80 High Street,Farrowbridge,PW9 9ZZ\n`
    const id = await received('cards.csv', csv)
    const { kind, mapping } = await batchOf(id)
    // By shared keys alone none of them is known.
    await tryBatch(t.ines, id, { kind, mapping }, { byKeysAlone: true })
    await runTrial(id)
    expect((await batchOf(id)).trial?.counts).toMatchObject({ new: 3 })
    await tryBatch(t.ines, id, { kind, mapping })
    await runTrial(id)
    const tried = (await batchOf(id)).trial
    await startBatch(t.ines, id, { kind, mapping }, {})
    await runBatch(id)
    expect(await counts(id)).toEqual({ new: 1, same: 0, updated: 1, 'in doubt': 1, refused: 0 })
    expect(tried).toMatchObject({ state: 'done', counts: await counts(id), fields: { role: 1 } })
    // A short form with a slip in it takes no better name away.
    expect(tried?.changes).toEqual([
      { row: 1, name: 'Elizabeth Harrowgate', fields: [{ field: 'role', before: 'Bursar', after: 'Head of estates' }] },
    ])
    const { rows } = await batchRows(t.ines, id, { outcome: 'updated' })
    expect(rows[0].changes).toEqual(tried?.changes?.[0].fields)
    expect(rows[0].reason).toMatch(
      /known by likeness, (9\d|over 99) %.*kept as it was: name \(the file says “Liz Harowgate”: it is a short form\)/,
    )
  })

  test('a row in doubt stands beside those it could be, with what agrees, and is decided', async () => {
    const id = (await t.app('batch').where({ file_name: 'cards.csv' }).first('id')).id
    const [row] = (await batchRows(t.ines, id, { outcome: 'in doubt' })).rows
    const doubt = await openRowInDoubt(t.ines, id, row.row)
    expect(doubt.fields).toMatchObject({ name: 'Tobi Quennell', organisation: 'Hallow Clinic', 'came with': `row ${row.row} of this file` })
    expect(doubt.candidates[0].fields.name).toBe('Tobias Quennell')
    expect(doubt.candidates[0].agrees.find((a) => a.field === 'organisation')).toMatchObject({ level: 'same' })
    expect(doubt.why).toBe('it is as like one as another of these')
    await settleRow(t.ines, id, row.row, { person: doubt.candidates[0].id })
    await expect(openRowInDoubt(t.ines, id, row.row)).rejects.toThrow('not in doubt')
    expect(await counts(id)).toMatchObject({ 'in doubt': 0, same: 1, updated: 1 })
  })

  test('where a field asks, a row that would change it waits for somebody; what is blank is filled all the same', async () => {
    await broughtIn(t.ines, 'asks-1.csv', `${HEAD}Orrin,Vale,Bursar,Larch School,orrin@example.org,,,,\n`)
    const rules = { role: 'ask', address: 'ask' } as const
    const id = await broughtIn(
      t.ines,
      'asks-2.csv',
      `${HEAD}Orrin,Vale,Head of estates,Larch School,orrin@example.org,,7 Mill Lane,Thornmouth,\n`,
      { rules },
    )
    expect(await counts(id)).toMatchObject({ 'in doubt': 1 })
    const [row] = (await batchRows(t.ines, id, { outcome: 'in doubt' })).rows
    expect(row.reason).toBe('known by email and name; it asks about role: Bursar → Head of estates')
    const person = await idOf('Orrin Vale')
    expect((await openPerson(t.ines, person)).view.role).toBe('Bursar')
    await settleRow(t.ines, id, row.row, { person })
    expect(await openPerson(t.ines, person)).toMatchObject({ view: { role: 'Head of estates' }, postal: '7 Mill Lane, Thornmouth' })
    // Nothing differs that it asks about: nobody is asked.
    expect(
      await counts(
        await broughtIn(t.ines, 'asks-3.csv', `${HEAD}Orrin,Vale,,Larch School,orrin@example.org,0113 496 0007,,,\n`, { rules }),
      ),
    ).toMatchObject({ updated: 1 })
  })

  test('by the weights that the last search found, where enough were searched', async () => {
    const row = (given: string) => `${HEAD}${given},Harowgate,,Sedge Primary School,,0113 496 0101,4 Mill Lane,Thornmouth,PW1 2AB\n`
    // By weights that make nothing of any agreement nobody is like anybody.
    const [{ id }] = await t.app('doubles_search').insert(
      {
        state: 'done',
        actor_id: t.ines.id,
        started_at: new Date(),
        people: 5000,
        weights: JSON.stringify({ prior: 1e-6, bits: [{}, {}, {}] }),
      },
      'id',
    )
    expect(await counts(await broughtIn(t.ines, 'weighed.csv', row('Elisabeth')))).toMatchObject({ new: 1 })
    // A search among few tells too little, and the usual weights count.
    await t.app('doubles_search').where({ id }).update({ people: 50 })
    expect(await counts(await broughtIn(t.ines, 'usual.csv', row('Elizabeht')))).toMatchObject({ new: 0 })
  })

  test('later rows of a file are matched with those before them', async () => {
    const id = await broughtIn(
      t.ines,
      'twice.csv',
      `${HEAD}Margarethe,Olander,,Marsh Housing,m.olander@marsh.example,,1 Fen Way,Saltrey Fen,PW4 4AA\nMargaerthe,Olander,Surveyor,Marsh Housing,,,1 Fen Way,Saltrey Fen,PW4 4AA\n`,
    )
    expect(await counts(id)).toMatchObject({ new: 1, updated: 1 })
  })
})
