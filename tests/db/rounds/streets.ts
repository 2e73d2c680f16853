import { parse } from 'csv-parse/sync'
import { beforeAll } from 'vitest'
import type { Line } from '@/core/lists/line'
import { FIRST_CHOICE, type LetterChoice } from '@/core/rounds/letter-choice'
import type { PremisesRoundView } from '@/core/views/premises-round-views'
import { createList } from '@/usecases/lists/create-list'
import { chooseLetters } from '@/usecases/rounds/choose-letters'
import { releasePremisesRound } from '@/usecases/rounds/release-premises-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { screenPremisesRound } from '@/usecases/rounds/screen-premises-round'
import { startRound } from '@/usecases/rounds/start-round'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

export let t: TestDatabase
const start = [{ id: 's', verb: 'start', off: false, batch: null, subject: 'premises' }] as Line[]
export const WORD = { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a letter' }
export const NOW = new Date('2026-06-15T09:00:00Z')

/** Six premises in a street of their own: two let to people who are known, two of one owner elsewhere, one abroad, one without an address. */
let n = 0
export async function street(how: Partial<LetterChoice> = {}, shared = true) {
  const k = ++n
  const batch = await broughtIn(
    t.ines,
    `premises-${k}.csv`,
    `Id,Building,Type,Street,Town,Postcode,Latitude,Longitude,Roof area,Owner,Owner type,Owner: street,Owner: town,Owner: postcode,Owner: country
P${k}1,Quay House,house,1 Quay Street,Thornmouth,PW${k} 1AA,${55 + k / 100},1.51,90,Ada Owner${'abcdefghijklmnopqrstuvwxyz'[k]},individual,1 Quay Street,Thornmouth,PW${k} 1AA,
P${k}2,Weir House,house,2 Weir Street,Thornmouth,PW${k} 1AB,${55 + k / 100},1.52,80,,,,,,
P${k}3,Mill,mill,3 Mill Lane,Thornmouth,PW${k} 1AC,${55 + k / 100},1.53,700,Estates ${k},company,9 Long Row,Low Wendle,PW${k} 9ZZ,
P${k}4,Maltings,maltings,4 Maltings,Thornmouth,PW${k} 1AD,${55 + k / 100},1.54,900,Estates ${k},company,9 Long Row,Low Wendle,PW${k} 9ZZ,
P${k}5,Lodge,house,5 Lodge Road,Thornmouth,PW${k} 1AE,${55 + k / 100},1.55,60,Claire Dupré,individual,12 rue des Lilas,Nantes,44000,France
P${k}6,Barn,barn,,,,${55 + k / 100},1.59,50,,,,,,
`,
    { kind: 'premises' },
  )
  await broughtIn(
    t.ines,
    `people-${k}.csv`,
    `Id,Name,Email,Address,Town,Postcode
A${k}1,Ada Owner${'abcdefghijklmnopqrstuvwxyz'[k]},ada@premises${k}.example,1 Quay Street,Thornmouth,PW${k} 1AA
A${k}2,Ben Owner${'abcdefghijklmnopqrstuvwxyz'[k]},ben@premises${k}.example,1 Quay Street,Thornmouth,PW${k} 1AA
A${k}3,Cora Weir${'abcdefghijklmnopqrstuvwxyz'[k]},cora@premises${k}.example,2 Weir Street,Thornmouth,PW${k} 1AB
`,
  )
  const list = await createList(t.ines, `Houses ${k}`, shared, [{ ...start[0], batch: { id: batch, name: 'premises' } } as Line])
  const round = await startRound(t.ines, list)
  await chooseLetters(t.ines, round, { ...FIRST_CHOICE, restDays: null, ...how })
  const who = async (i: number): Promise<number> =>
    (
      await t
        .app('person')
        .where({ outside_id: `A${k}${i}` })
        .first('id')
    ).id
  const premises = async (i: number): Promise<number> =>
    (
      await t
        .app('premises')
        .where({ outside_id: `P${k}${i}` })
        .first('id')
    ).id
  return { k, list, round, who, premises, letter: 'abcdefghijklmnopqrstuvwxyz'[k] }
}
export const account = (round: number, view: PremisesRoundView = { tab: 'letters' }) => screenPremisesRound(t.ines, round, view)
export const addressees = async (round: number) => (await account(round)).letters.map((letter) => letter.addressee)
export const held = async (round: number) => (await account(round, { tab: 'held' })).held.map((own) => [own.name, own.rule, own.detail])
export async function release(round: number) {
  const { print, figures } = await account(round)
  await releasePremisesRound(t.ines, round, { print: print as string, letters: figures.letters })
}
export const inFile = async (round: number, how = {}) =>
  (parse((await roundFile(t.ines, round, 'post', how)).bytes, { bom: true }) as string[][]).slice(1)

/** A database and an engine before the tests of the file that calls this. */
export function givenStreets(): void {
  beforeAll(async () => {
    t = await freshDatabase()
    await startEngine(t)
  })
}
