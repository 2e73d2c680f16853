import { beforeAll } from 'vitest'
import type { Subject } from '@/core/records/subject'
import type { Criterion } from '@/core/criteria/registry'
import { batchOf } from '@/usecases/intake/batch-for'
import { listAccountFor } from '@/usecases/lists/list-account'
import { receiveFile } from '@/usecases/intake/receive-file'
import { runBatch } from '@/usecases/intake/run-batch'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { startBatch } from '@/usecases/intake/start-batch'
import type { Line } from '@/core/lists/line'

export let t: TestDatabase
export const start = (subject: Subject = 'person'): Line => ({
  id: 's',
  verb: 'start',
  off: false,
  batch: null,
  ...(subject === 'person' ? {} : { subject }),
})
export const keep = (criterion: Criterion, id = criterion.kind): Line => ({ id, verb: 'keep', off: false, unknownAsYes: false, criterion })

export const PEOPLE = [
  'Id,First name,Last name,Role,Organisation,Email,Address,Town,Postcode,Languages,In the role since,Organisation: kind,Organisation: founded,Organisation: people counted',
  'P1,Maud,Ellery,Head of Estates,North School,maud@north.example,4 Mill Lane,Thornmouth,PW1 2AB,English; Welsh,2020-03-01,public body,1904,80',
  'P2,Tomas,Pike,Bursar,North School,tomas@north.example,4 Mill Lane,Thornmouth,PW1 2AB,English,,,,',
  'P3,Priya,Rao,Head Brewer,Sedge Brewery,priya@sedge.example,9 Quay Street,Thornmouth,PW1 9ZZ,,2026-05-01,company,,',
  'P4,Ida,Owens,,,ida@example.org,7 Mill Lane,Thornmouth,PW1 2AB,,,,,',
].join('\n')
export const PREMISES = [
  'Id,Building,Type,Street,Town,Postcode,Latitude,Longitude,Roof area,Owner,Owner type,Value,Loan on it,Owner: street,Owner: town,Owner: postcode',
  'B1,North School,school,4 Mill Lane,Thornmouth,PW1 2AB,55.3000,1.5000,1200,North School,public body,400000,160000,4 Mill Lane,Thornmouth,PW1 2AB',
  'B2,Sedge Brewery,brewery,9 Quay Street,Thornmouth,PW1 9ZZ,55.3010,1.5000,900,Marsh & Lock Property Ltd,company,400000,260000,1 Market Place,Low Wendle,PW2 1AA',
  'B3,7 Mill Lane,house,7 Mill Lane,Thornmouth,PW1 2AB,55.3200,1.5500,80,Ida Owens,individual,,,7 Mill Lane,Thornmouth,PW1 2AB',
  'B4,Lock House,house,1 Lock Terrace,Thornmouth,PW1 3CC,,,60,Ida Owens,individual,200000,0,7 Mill Lane,Thornmouth,PW1 2AB',
].join('\n')

export const premisesIn = async (name: string, csv: string) => {
  const id = await receiveFile(t.ines, { name, bytes: Buffer.from(csv), kind: 'premises' })
  await startBatch(t.ines, id, await batchOf(id), { again: true })
  await runBatch(id)
  return id
}
export const names = async (lines: Line[]) =>
  (await listAccountFor(t.ines, { lines, view: { tab: 'on' } })).page.records.map((r) => r.title)
export const unknown = async (lines: Line[]) =>
  (await listAccountFor(t.ines, { lines, view: { tab: 'unknown' } })).page.records.map((r) => r.title)

/** Makes them before the tests of the file that calls this. */
export function givenThreeSubjects(): void {
  beforeAll(async () => {
    t = await freshDatabase()
    await broughtIn(t.ines, 'people.csv', PEOPLE, { byKeysAlone: true })
    await premisesIn('premises.csv', PREMISES)
    await startEngine(t)
  })
}
