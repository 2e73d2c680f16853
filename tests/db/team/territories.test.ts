import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { unpackIds } from '@/engine/packed-ids'
import { membersOf } from '@/usecases/changes/tell-changes'
import { freshOf } from '@/usecases/lists/last-looked'
import { listIndex } from '@/usecases/lists/list-index'
import { openList } from '@/usecases/lists/open-list'
import { profileList } from '@/usecases/lists/profile-list'
import { createList } from '@/usecases/lists/create-list'
import { listAccountFor } from '@/usecases/lists/list-account'
import { listOfThese } from '@/usecases/lists/list-of-these'
import { saveEdition } from '@/usecases/lists/save-edition'
import { closeRound } from '@/usecases/rounds/close-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { shareFile, tellShares } from '@/usecases/rounds/share-file'
import { startRound } from '@/usecases/rounds/start-round'
import { requalifyList } from '@/usecases/rounds/requalify-list'
import { removeColleague } from '@/usecases/team/remove-colleague'
import { removeTerritory } from '@/usecases/team/remove-territory'
import { saveTerritory } from '@/usecases/team/save-territory'
import { territories } from '@/usecases/team/territories'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'people.csv',
    `Id,Name,Organisation,Email,Address,Town,Postcode
A1,Ada Coast,Quay School,ada@patch.example,1 Quay Street,Thornmouth,PW1 1AA
A2,Ben Coast,Quay School,ben@patch.example,2 Quay Street,Thornmouth,PW1 1AB
A3,Cyd Inland,Mill School,cyd@patch.example,3 Mill Lane,Low Wendle,PW12 3AC
A4,Dov Inland,Weir School,dov@patch.example,4 Mill Lane,Low Wendle,PW2 3AD
A5,Eve Nowhere,Fen School,eve@patch.example,,,
`,
  )
})
const coast = (of: object = {}) => ({ id: null, name: 'The coast', postcodes: ['PW1'], holders: [t.tam.id], ...of })
const balance = async (list: number) => {
  const { lines } = await t.app('edition').where({ list_id: list }).orderBy('number', 'desc').first('lines')
  return (await listAccountFor(t.ines, { lines, view: { tab: 'on' } })).figures.tabs.on
}

describe('territories', () => {
  test('are saved, changed and removed by coordinators, each with what is wrong', async () => {
    await expect(saveTerritory(t.tam, coast())).rejects.toThrow(/coordinators/i)
    await expect(saveTerritory(t.ines, coast({ name: ' ' }))).rejects.toThrow(/Give the territory a name/)
    await expect(saveTerritory(t.ines, coast({ postcodes: [] }))).rejects.toThrow(/at least one postcode/)
    await expect(saveTerritory(t.ines, coast({ postcodes: ['PW1', '--'] }))).rejects.toThrow(/“--” is no postcode/)
    await expect(saveTerritory(t.ines, coast({ holders: ['nobody'] }))).rejects.toThrow(/has left/)
    const id = await saveTerritory(t.ines, coast({ postcodes: ['PW1', 'pw1', 'PW4 2'] }))
    expect(await territories(t.tam)).toEqual([
      { id, name: 'The coast', postcodes: ['pw1', 'PW4 2'], holders: [{ id: t.tam.id, name: 'Tam Reyes' }] },
    ])
    await expect(saveTerritory(t.ines, coast({ name: 'the COAST' }))).rejects.toThrow(/already/)
    await saveTerritory(t.marek, { ...coast({ postcodes: ['PW1'] }), id })
    await removeTerritory(t.ines, id)
    expect(await territories(t.ines)).toEqual([])
    await expect(removeTerritory(t.ines, id)).rejects.toThrow(/no such territory/)
    // Put back it is as it was, once, and not beside another of its name.
    const before = await territories(t.ines)
    await removeTerritory(t.ines, id, true)
    const [back] = (await territories(t.ines)).filter((own) => !before.some((known) => known.id === own.id))
    expect(back.id).toBe(id)
    await expect(removeTerritory(t.ines, id, true)).rejects.toThrow(/there already/)
    await removeTerritory(t.ines, id)
    const taken = await saveTerritory(t.ines, { id: null, name: back.name.toUpperCase(), postcodes: ['PW9'], holders: [] })
    await expect(removeTerritory(t.ines, id, true)).rejects.toThrow(/by now, so this one stays removed/)
    await removeTerritory(t.ines, taken)
    await expect(saveTerritory(t.ines, { ...coast(), id })).rejects.toThrow(/no such territory/)
    // Two at once: one of them.
    const both = await Promise.allSettled([
      saveTerritory(t.ines, coast({ name: 'Twice' })),
      saveTerritory(t.marek, coast({ name: 'Twice' })),
    ])
    expect(both.filter(({ status }) => status === 'fulfilled')).toHaveLength(1)
    expect(both.find(({ status }) => status === 'rejected')).toMatchObject({ reason: { message: expect.stringMatching(/already/) } })
    await removeTerritory(t.ines, (both.find(({ status }) => status === 'fulfilled') as PromiseFulfilledResult<number>).value)
  })

  test('lists that ask for one follow it, keep what it had when it is removed, and hold no postcodes of their own', async () => {
    const id = await saveTerritory(t.ines, coast())
    const list = await listOfThese(t.ines, { territory: id })
    expect(await balance(list)).toBe(2)
    const { lines } = await t.app('edition').where({ list_id: list }).first('lines')
    expect(JSON.stringify(lines)).not.toContain('PW1')
    // Whatever else is asked about its lines: the index of lists, whom changes are told to, what it looked like before, its profile.
    expect((await freshOf(t.ines, await listIndex(t.ines))).get(list)).toMatchObject({ on: 2 })
    expect(unpackIds((await membersOf(lines)) as Buffer)).toHaveLength(2)
    await openList(t.ines, list)
    expect((await profileList(t.ines, { lines, facets: ['town'] } as never)) as unknown).toBeTruthy()
    // Another list that names this one follows as well.
    const other = await createList(t.ines, 'By the coast list', false, [
      lines[0],
      {
        id: 'k',
        verb: 'keep',
        off: false,
        unknownAsYes: false,
        criterion: { kind: 'list', list: { id: list, name: 'x' }, edition: null },
      } as Line,
    ])
    await saveTerritory(t.ines, { ...coast({ name: 'The shore', postcodes: ['PW1', 'PW2'] }), id })
    expect(await balance(list)).toBe(3)
    expect(await balance(other)).toBe(3)
    // What a request says the postcodes are is not believed, nor is its name.
    await saveEdition(t.ines, list, 1, [
      lines[0],
      { ...lines[1], criterion: { kind: 'territory', territories: [{ id, name: 'Mine' }], postcodes: ['PW12'] } },
    ])
    expect(await balance(list)).toBe(3)
    const second = await t.app('edition').where({ list_id: list }).orderBy('number', 'desc').first('lines')
    expect(second.lines[1].criterion).toEqual({ kind: 'territory', territories: [{ id, name: 'The shore' }] })
    await removeTerritory(t.ines, id)
    expect(await balance(list)).toBe(3)
    const gone = { ...lines[1], criterion: { kind: 'territory', territories: [{ id: 999_999, name: 'None' }] } }
    await expect(listAccountFor(t.ines, { lines: [lines[0], gone], view: { tab: 'on' } })).rejects.toThrow(
      /“None” that a line names does not exist/,
    )
    await expect(listOfThese(t.ines, { territory: id })).rejects.toThrow(/no such territory/)
  })

  test('who leaves a list since its territory changed is told as one who left', async () => {
    const id = await saveTerritory(t.ines, coast({ postcodes: ['PW1', 'PW2'] }))
    const list = await listOfThese(t.ines, { territory: id })
    const round = await startRound(t.ines, list)
    await releaseRound(t.ines, round)
    await saveTerritory(t.ines, { ...coast({ postcodes: ['PW1'] }), id })
    const page = await requalifyList(t.ines, list, { account: 'listed', tab: 'left' })
    expect(page.listed).toMatchObject({ opening: 3, left: 1 })
    await closeRound(t.ines, round)
    await removeTerritory(t.ines, id)
  })

  test('contacts are shared out by them, an organisation as one, and whoever has left has none', async () => {
    const id = await saveTerritory(t.ines, coast())
    const inland = await saveTerritory(t.ines, coast({ name: 'Inland', postcodes: ['PW12', 'PW2'], holders: [t.ines.id] }))
    const list = await createList(t.ines, 'Everybody to share', true, [{ id: 's', verb: 'start', off: false, batch: null } as Line])
    const round = await startRound(t.ines, list)
    await releaseRound(t.ines, round)
    const how = {
      colleagues: [
        { id: t.ines.id, share: 1 },
        { id: t.tam.id, share: 1 },
      ],
      known: true,
      had: true,
      territory: true,
    }
    const told = await tellShares(t.ines, round, 'email', how)
    const of = (who: string) => told.colleagues.find((own) => own.id === who)
    expect(of(t.tam.id)).toMatchObject({ territory: 2 })
    expect(of(t.ines.id)).toMatchObject({ territory: 2 })
    expect(told.people).toBe(5)
    await shareFile(t.ines, round, 'email', how)
    expect(await t.app('round_share').where({ round_id: round, because: 'territory' }).count('* as n').first()).toEqual({ n: 4 })
    // Unless it is asked for, a territory decides nothing.
    const without = await tellShares(t.ines, round, 'email', { ...how, territory: false })
    expect(without.colleagues.reduce((sum, own) => sum + own.territory, 0)).toBe(0)
    await removeTerritory(t.ines, inland)
    expect((await tellShares(t.ines, round, 'email', how)).colleagues.find((own) => own.id === t.ines.id)).toMatchObject({ territory: 0 })
    await removeColleague(t.marek, t.tam.id)
    expect((await territories(t.ines)).find((own) => own.id === id)?.holders).toEqual([])
  })
})
