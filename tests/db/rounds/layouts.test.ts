import { parse } from 'csv-parse/sync'
import readWorkbook from 'read-excel-file/node'
import { expect, test } from 'vitest'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { removeLayout } from '@/usecases/rounds/remove-layout'
import { roundFile } from '@/usecases/rounds/round-file'
import { saveLayout } from '@/usecases/rounds/save-layout'
import { suppress } from '@/usecases/screening/suppress'
import { erasePerson } from '@/usecases/directory/erase-person'
import { builtRound, givenRounds, t } from './released-while'

givenRounds()

const LAYOUT = {
  format: 'xlsx',
  columns: [
    { of: 'Email', heading: 'E-Mail' },
    { of: 'Given name', heading: 'First' },
  ],
}
const released = async () => {
  const built = await builtRound()
  await releaseRound(t.ines, built.round)
  return built
}
const sheet = async (bytes: Buffer) => (await readWorkbook(bytes))[0].data

test('a file is had in another layout: the same people, without whoever must not be contacted any more, the same bytes each time', async () => {
  const { round, ids, mail } = await released()
  const first = await roundFile(t.tam, round, 'email', { layout: JSON.stringify(LAYOUT) })
  expect(first.name).toMatch(/-round-1-email\.xlsx$/)
  const rows = parse((await roundFile(t.tam, round, 'email')).bytes, { columns: true }) as Record<string, string>[]
  expect(await sheet(first.bytes)).toEqual([['E-Mail', 'First'], ...rows.map((row) => [row.Email, row['Given name']])])
  expect((await roundFile(t.ines, round, 'email', { layout: LAYOUT })).sha256).toBe(first.sha256)
  await suppress(t.tam, { person: ids[0] }, { reason: 'opt-out', channels: ['email'], word: 'a call' })
  const later = await roundFile(t.tam, round, 'email', { layout: LAYOUT })
  expect(later).toMatchObject({ leftOut: 1, name: expect.stringMatching(/-without-1\.xlsx$/) })
  expect((await sheet(later.bytes)).flat()).not.toContain(mail[0])
  expect(await sheet((await roundFile(t.tam, round, 'email', { layout: LAYOUT, asReleased: true })).bytes)).toHaveLength(4)
  // Who took which layout is kept, so that whoever opts out can be named to them.
  const taken = await t.app('round_file_taken').where({ round_id: round }).orderBy('id').select('layout', 'without')
  expect(taken.map(({ layout, without }) => [layout?.format ?? null, without.length])).toEqual([
    ['xlsx', 0],
    [null, 0],
    ['xlsx', 0],
    ['xlsx', 1],
    ['xlsx', 0],
  ])
  await erasePerson(t.marek, ids[1])
  await expect(roundFile(t.ines, round, 'email', { layout: LAYOUT })).rejects.toThrow('withdrawn')
})

test('what cannot be laid out is refused with why, and nothing is taken', async () => {
  const { round } = await released()
  const tried = (layout: unknown) => roundFile(t.ines, round, 'email', { layout })
  await expect(tried('{')).rejects.toThrow('The layout of the file cannot be read. Nothing was downloaded.')
  await expect(tried({ ...LAYOUT, format: 'docx' })).rejects.toThrow('There is no such format.')
  await expect(tried({ ...LAYOUT, columns: [] })).rejects.toThrow('Choose at least one column. Nothing was downloaded.')
  await expect(tried({ ...LAYOUT, columns: [{ of: 'Opener', heading: 'Opener' }] })).rejects.toThrow('The file has no column “Opener”.')
  await expect(tried({ ...LAYOUT, columns: [...LAYOUT.columns, { of: 'Name', heading: 'First' }] })).rejects.toThrow('Two columns')
  expect(await t.app('round_file_taken').where({ round_id: round })).toEqual([])
})

test('layouts are saved for the team, a channel each; one of the same name is written over, whatever its letters', async () => {
  const { round } = await released()
  const id = await saveLayout(t.ines, 'email', ' Mail program ', LAYOUT)
  expect(await saveLayout(t.marek, 'email', 'MAIL PROGRAM', { ...LAYOUT, format: 'csv' })).toBe(id)
  await saveLayout(t.ines, 'phone', 'Mail program', { format: 'vcard', columns: [{ of: 'Phone', heading: 'Phone' }] })
  expect((await openRound(t.tam, round)).layouts).toEqual([
    { id, channel: 'email', name: 'MAIL PROGRAM', format: 'csv', columns: LAYOUT.columns },
    expect.objectContaining({ channel: 'phone', format: 'vcard' }),
  ])
  // Two at once make one.
  await Promise.all([saveLayout(t.ines, 'post', 'Printer', POST), saveLayout(t.marek, 'post', 'printer', POST)])
  expect(await t.app('file_layout').where({ channel: 'post' })).toHaveLength(1)
  await expect(saveLayout(t.tam, 'email', 'Mine', LAYOUT)).rejects.toThrow('for coordinators')
  await expect(saveLayout(t.ines, 'email', ' ', LAYOUT)).rejects.toThrow('Give the layout a name.')
  await expect(saveLayout(t.ines, 'phone', 'Wrong', LAYOUT)).rejects.toThrow('The file has no column “Email”. The layout was not saved.')
  await removeLayout(t.marek, id)
  await expect(removeLayout(t.ines, id)).rejects.toThrow('There is no such layout.')
})

const POST = { format: 'csv', columns: [{ of: 'Town', heading: 'Town' }] }
