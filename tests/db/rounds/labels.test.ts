import { execFileSync } from 'node:child_process'
import { rmSync, writeFileSync } from 'node:fs'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { parse } from 'csv-parse/sync'
import type { Line } from '@/core/lists/line'
import { erasePerson } from '@/usecases/directory/erase-person'
import { createList } from '@/usecases/lists/create-list'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { alignmentPage, roundLabels, tellLabels } from '@/usecases/rounds/round-labels'
import { startRound } from '@/usecases/rounds/start-round'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let round: number
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const id = async (name: string): Promise<number> => (await t.app('person').where({ name }).first('id')).id
const SHEET = { sheet: 'a4-3x7' }
const file = `.data-test/labels-${process.pid}.pdf`
afterAll(() => rmSync(file, { force: true }))

function textOf(bytes: Buffer): string {
  writeFileSync(file, bytes)
  return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' })
}

beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'letters.csv',
    'Id,Name,Organisation,Email,Address,Town,Postcode\n' +
      'L1,Ada Open,Hallow Clinic,ada@hallow.example,12 Mill Lane,Thornmouth,PW1 2AB\n' +
      'L2,Ben Shut,Hallow Clinic,ben@hallow.example,14 Mill Lane,Thornmouth,PW1 2AB\n' +
      'L3,Cyd Mail,Weir School,cyd@hallow.example,,,\n' +
      'L4,Dov Sum,Hallow Clinic,dov@hallow.example,16 Mill Lane,Thornmouth,PW1 2AB\n',
  )
  const list = await createList(t.ines, 'Letters', true, [start])
  round = await startRound(t.ines, list)
  await expect(roundLabels(t.ines, round, SHEET)).rejects.toThrow(/not released/)
  await releaseRound(t.ines, round)
})

describe('address labels', () => {
  test('go to exactly those whom the post file names, each where it says', async () => {
    const rows = parse((await roundFile(t.ines, round, 'post')).bytes, { columns: true }) as Record<string, string>[]
    const text = textOf((await roundLabels(t.ines, round, SHEET)).bytes)
    expect(rows.map((row) => row.Name).sort()).toEqual(['Ada Open', 'Ben Shut', 'Dov Sum'])
    for (const { Name, Street } of rows) {
      expect(text).toContain(Name)
      expect(text).toContain(Street)
    }
    expect(text).not.toContain('Cyd')
    expect(await tellLabels(t.ines, round, { ...SHEET, start: '20' })).toEqual({
      labels: 3,
      sheets: 2,
      respelled: 0,
      withoutStreet: 0,
      leftOut: 0,
    })
  })

  test('leave out whoever opts out after the release, name who took them, and come byte for byte again', async () => {
    const before = (await roundLabels(t.ines, round, SHEET)).bytes
    expect((await roundLabels(t.tam, round, SHEET)).bytes.equals(before)).toBe(true)
    await suppress(t.tam, { person: await id('Ben Shut') }, { reason: 'opt-out', channels: ['post'], word: 'a letter' })
    expect(await tellLabels(t.ines, round, SHEET)).toMatchObject({ labels: 2, leftOut: 1 })
    expect(textOf((await roundLabels(t.ines, round, SHEET)).bytes)).not.toContain('Ben Shut')
    // Both who had labels that named him are told of.
    const { stopped } = await openRound(t.ines, round)
    expect(stopped.find(({ channel }) => channel === 'post')?.takenBy.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['Ines Okafor', 'Tam Reyes']),
    )
  })

  test('are refused with what is wrong with the sheet', async () => {
    const says = (asked: object) => expect(roundLabels(t.ines, round, asked)).rejects
    const own = {
      sheet: 'own',
      pageWidth: 210,
      pageHeight: 297,
      columns: 3,
      rows: 7,
      width: 80,
      height: 38,
      stepAcross: 70,
      stepDown: 38,
      left: 0,
      top: 10,
    }
    await says(own).toThrow(/overlap.*No labels were made/)
    await says({ ...own, width: '' }).toThrow(/Give every measure of the sheet/)
    await says({ ...own, width: 'wide' }).toThrow(/Give every measure of the sheet/)
    await says({ ...SHEET, start: 'third' }).toThrow(/first label is a number/)
    await says({ sheet: 'foolscap' }).toThrow(/no such sheet/)
    await says({}).toThrow(/Choose a sheet/)
    await says({ ...SHEET, start: 22 }).toThrow(/21 labels/)
    await says({ ...SHEET, start: 0 }).toThrow(/number 1/)
    await says({ ...SHEET, across: 300 }).toThrow(/20 mm/)
    expect(textOf((await alignmentPage(t.ines, round, SHEET)).bytes)).toContain('21')
  })

  test('are withdrawn with the post file when somebody in it is erased', async () => {
    await erasePerson({ ...t.ines, post: 'manager' }, await id('Ada Open'))
    await expect(roundLabels(t.ines, round, SHEET)).rejects.toThrow(/erased on request/)
    await expect(tellLabels(t.ines, round, SHEET)).rejects.toThrow(/withdrawn/)
  })
})
