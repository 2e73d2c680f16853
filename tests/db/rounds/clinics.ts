import { beforeAll } from 'vitest'
import type { CriterionLine, Line } from '@/core/lists/line'
import { createList } from '@/usecases/lists/create-list'
import { recordContact } from '@/usecases/contact/record-contact'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { suppress } from '@/usecases/screening/suppress'

export let t: TestDatabase
export const HEAD = 'Id,Name,Role,Organisation,Email,Phone,Address,Town,Postcode,Status\n'
export const start: Line = { id: 'start', verb: 'start', off: false, batch: null }
export const keepRole: CriterionLine = {
  id: 'role',
  verb: 'keep',
  off: false,
  unknownAsYes: false,
  criterion: { kind: 'role', any: ['estates', 'facilities'] },
}
export const dropTrainee: CriterionLine = {
  id: 'trainee',
  verb: 'drop',
  off: false,
  unknownAsYes: false,
  criterion: { kind: 'role', any: ['trainee'] },
}

export const idOf = async (name: string): Promise<number> => (await t.app('person').where({ name }).first('id')).id
export const person = (id: string, name: string, role: string, email = `${id}@example.org`.toLowerCase(), status = 'prospect') =>
  `${id},${name},${role},Hallow Clinic,${email},0113 496 0${id.slice(1).padStart(3, '0')},${id.slice(1)} Mill Lane,Thornmouth,PW1 2AB,${status}\n`

export let list: number
/** Makes them before the tests of the file that calls this. */
export function givenClinics(): void {
  beforeAll(async () => {
    t = await freshDatabase()
    await startEngine(t)
    await broughtIn(
      t.ines,
      'first.csv',
      HEAD +
        person('R1', 'Ada Open', 'Estates lead') +
        person('R2', 'Ben Stopped', 'Estates lead') +
        person('R3', 'Cyd Register', 'Facilities manager') +
        person('R4', 'Dee Customer', 'Estates lead', undefined, 'customer') +
        person('R5', 'Eve Lately', 'Facilities lead') +
        person('R6', 'Fay Trainee', 'Trainee estates officer') +
        person('R7', 'Gus Nobody', '') +
        person('R8', 'Hal Nurse', 'Nurse') +
        person('R9', 'Ida Zigzag', '=Estates lead'),
    )
    await suppress(
      t.tam,
      { person: await idOf('Ben Stopped') },
      { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'asked on the phone' },
    )
    await broughtIn(t.ines, 'register.csv', 'Phone\n0113 496 0003\n', {
      kind: 'suppressions',
      register: { name: 'County register', version: '2026-06-01' },
    })
    await recordContact(t.tam, await idOf('Eve Lately'), { channel: 'phone', result: 'voicemail', date: '2026-06-01' })
    list = await createList(t.ines, 'Clinics', true, [start, keepRole, dropTrainee])
  })
}
