import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { recordsCsv } from '@/usecases/directory/export-records'
import { createList } from '@/usecases/lists/create-list'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { screenPremises } from '@/usecases/screening/screen-premises'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let list: number
const start = [{ id: 's', verb: 'start', off: false, batch: null, subject: 'premises' }] as Line[]
const WORD = { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a letter' }
beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'premises.csv',
    `Id,Building,Type,Street,Town,Postcode,Latitude,Longitude,Owner,Owner type,Owner: street,Owner: town,Owner: postcode
P1,Quay House,house,1 Quay Street,Thornmouth,PW1 1AA,55.3,1.5,,,,,
P2,Weir House,house,2 Weir Street,Thornmouth,PW1 1AB,55.3,1.5,,,,,
P3,Mill Cottage,house,3 Mill Lane,Thornmouth,PW1 1AC,55.3,1.5,,,,,
P4,The Maltings,house,4 Maltings,Thornmouth,PW1 1AD,55.3,1.5,Ada Owner,individual,4 Maltings,Thornmouth,PW1 1AD
P5,Barn,barn,,,,55.31,1.51,,,,,
`,
    { kind: 'premises' },
  )
  await broughtIn(
    t.ines,
    'people.csv',
    `Id,Name,Email,Address,Town,Postcode
A1,Ada Owner,ada@premises.example,4 Maltings,Thornmouth,PW1 1AD
A2,Ben Home,ben@premises.example,3 Mill Lane,Thornmouth,PW1 1AC
`,
  )
  list = await createList(t.ines, 'Houses', true, start)
})
const idOf = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).first('id')).id
const account = async () => {
  const { figures, held } = await screenPremises(t.tam, list)
  return { outs: figures.rules.map(({ out }) => out), clear: figures.clear, held: held.map((h) => [h.name, h.rule, h.why]) }
}

test('letters to premises go by address, household and owner, each told with its reason', async () => {
  expect(await account()).toEqual({ outs: [1, 0, 0, 0], clear: 4, held: [['Barn', 'No postal address', null]] })
  const address = await suppress(t.tam, { postal: { street: '1 QUAY ST', town: '', postcode: 'pw11aa' } }, WORD)
  const household = await suppress(t.tam, { household: await idOf('A2') }, { ...WORD, reason: 'complaint' })
  const owner = await suppress(t.tam, { person: await idOf('A1') }, { ...WORD, reason: 'deceased or moved' })
  expect(await account()).toEqual({
    outs: [1, 1, 1, 1],
    clear: 1,
    held: [
      ['Barn', 'No postal address', null],
      ['Mill Cottage', 'Household asked to stop, or held back', 'Complained'],
      ['Quay House', 'Address asked to stop, or held back', 'Asked us to stop'],
      ['The Maltings', 'Owner asked to stop, or held back', 'Died or moved away'],
    ],
  })
  for (const id of [address, household, owner]) await liftSuppression(t.ines, id, 'sold')
  expect((await account()).clear).toBe(4)
  // By another channel it is no matter for a letter.
  await suppress(t.tam, { person: await idOf('A1') }, { ...WORD, channels: ['email'] })
  expect((await account()).clear).toBe(4)
})

test('a list of people is not screened so', async () => {
  const people = await createList(t.ines, 'People', true)
  await expect(screenPremises(t.ines, people)).rejects.toThrow(/Only a list of premises/)
})

test('a file of the list says the same: what is closed for the owner’s or the household’s sake goes without its street', async () => {
  const rows = async () => {
    const { pieces } = await recordsCsv(t.tam, { list, lines: start, view: { tab: 'on' } })
    let text = ''
    for await (const piece of pieces) text += piece
    const [head, ...all] = text.trim().split('\r\n')
    const [name, street, post] = ['Name', 'Street', 'Post is'].map((title) => head.replace('\uFEFF', '').split(',').indexOf(title))
    return Object.fromEntries(all.map((row) => row.split(',')).map((row) => [row[name], [row[street], row[post]]]))
  }
  const owner = await suppress(t.tam, { person: await idOf('A1') }, WORD)
  const household = await suppress(t.tam, { household: await idOf('A2') }, WORD)
  const closed = await rows()
  expect(closed['The Maltings']).toEqual(['', 'closed: suppressed'])
  expect(closed['Mill Cottage']).toEqual(['', 'closed: suppressed'])
  expect(closed['Quay House']).toEqual(['1 Quay Street', 'open'])
  for (const id of [owner, household]) await liftSuppression(t.ines, id, 'sold')
  // What is held back for calls alone is no matter for a letter, here as in the account.
  await suppress(t.tam, { household: await idOf('A2') }, { ...WORD, channels: ['phone'] })
  const open = await rows()
  expect([open['The Maltings'], open['Mill Cottage']]).toEqual([
    ['4 Maltings', 'open'],
    ['3 Mill Lane', 'open'],
  ])
})
