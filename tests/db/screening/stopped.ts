import { beforeAll } from 'vitest'
import { openPerson } from '@/usecases/directory/open-person'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

export let t: TestDatabase
export const HEADER = 'Id,Name,Organisation,Email,Phone,Address,Town,Postcode,Status\n'
/** Makes them before the tests of the file that calls this. */
export function givenStopped(): void {
  beforeAll(async () => {
    t = await freshDatabase()
    await broughtIn(
      t.ines,
      'people.csv',
      `${HEADER}S1,Ann Able,North School,ann@north.example,0113 496 0001,1 Mill Lane,Thornmouth,PW1 2AB,\nS2,Bob Bell,North School,bob@north.example,0113 496 0002,1 Mill Ln,Thornmouth,PW1 2AB,\nS3,Cas Cole,Sedge Homes,cas@mail.north.example,0113 496 0003,2 Quay Street,Low Wendle,PW2 1ZZ,customer\nS4,Dot Dean,Sedge Homes,dot@example.org,0113 496 0004,3 Quay Street,Low Wendle,PW2 1ZZ,\n`,
    )
    await startEngine(t)
  })
}

export const idOf = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).first('id')).id
export const reach = async (outside: string) => (await openPerson(t.ines, await idOf(outside))).view.reach
export const word = { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a letter' }
