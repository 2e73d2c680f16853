import { parse } from 'csv-parse/sync'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { FIRST_CHOICE, type LetterChoice } from '@/core/rounds/letter-choice'
import type { PremisesRoundView } from '@/core/views/premises-round-views'
import { pinClock } from '@/runtime/clock'
import { recordContact } from '@/usecases/contact/record-contact'
import { erasePerson } from '@/usecases/directory/erase-person'
import { recordsCsv } from '@/usecases/directory/export-records'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { allRoundFiles } from '@/usecases/rounds/all-round-files'
import { chooseLetters } from '@/usecases/rounds/choose-letters'
import { closeRound } from '@/usecases/rounds/close-round'
import { openPremisesRound } from '@/usecases/rounds/open-premises-round'
import { openRound } from '@/usecases/rounds/open-round'
import { recordLetter } from '@/usecases/rounds/record-letter'
import { recordPosted } from '@/usecases/rounds/record-posted'
import { releasePremisesRound } from '@/usecases/rounds/release-premises-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { requalifyList } from '@/usecases/rounds/requalify-list'
import { roundFile } from '@/usecases/rounds/round-file'
import { roundLabels, tellLabels } from '@/usecases/rounds/round-labels'
import { roundsOfList } from '@/usecases/rounds/rounds-of-list'
import { screenPremisesRound } from '@/usecases/rounds/screen-premises-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { startRound } from '@/usecases/rounds/start-round'
import { takeBackPosted } from '@/usecases/rounds/take-back-posted'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { suppress } from '@/usecases/screening/suppress'
import type { Actor } from '@/usecases/team/actor'
import { todayPage } from '@/usecases/team/today'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
const start = [{ id: 's', verb: 'start', off: false, batch: null, subject: 'premises' }] as Line[]
const WORD = { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a letter' }
const NOW = new Date('2026-06-15T09:00:00Z')

/** Six premises in a street of their own: two let to people who are known, two of one owner elsewhere, one abroad, one without an address. */
let n = 0
async function street(how: Partial<LetterChoice> = {}, shared = true) {
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
const account = (round: number, view: PremisesRoundView = { tab: 'letters' }) => screenPremisesRound(t.ines, round, view)
const addressees = async (round: number) => (await account(round)).letters.map((letter) => letter.addressee)
const held = async (round: number) => (await account(round, { tab: 'held' })).held.map((own) => [own.name, own.rule, own.detail])
async function release(round: number) {
  const { print, figures } = await account(round)
  await releasePremisesRound(t.ines, round, { print: print as string, letters: figures.letters })
}
const inFile = async (round: number, how = {}) =>
  (parse((await roundFile(t.ines, round, 'post', how)).bytes, { bom: true }) as string[][]).slice(1)

beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
})

describe('a round of premises', () => {
  test('screens by address, household, owner and whoever is there, each told with its reason', async () => {
    const { round, who, k } = await street({ wording: 'resident' })
    expect((await account(round)).figures).toMatchObject({ opening: 6, clear: 5, letters: 5 })
    expect(await held(round)).toEqual([['Barn', 'No postal address', null]])
    const address = await suppress(t.tam, { postal: { street: '3 MILL LN', town: '', postcode: `pw${k}1ac` } }, WORD)
    const household = await suppress(t.tam, { household: await who(3) }, { ...WORD, reason: 'complaint' })
    const owner = await suppress(t.tam, { person: await who(1) }, { ...WORD, reason: 'deceased or moved' })
    expect(await held(round)).toEqual([
      ['Barn', 'No postal address', null],
      ['Mill', 'Address asked to stop, or held back', 'Asked us to stop'],
      ['Quay House', 'Owner asked to stop, or held back', 'Died or moved away'],
      ['Weir House', 'Household asked to stop, or held back', 'Complained'],
    ])
    for (const id of [address, household, owner]) await liftSuppression(t.ines, id, 'sold')
    expect((await account(round)).figures.letters).toBe(5)
    // Somebody who lives there and asked us to stop speaks for the house, by post alone.
    await suppress(t.tam, { person: await who(2) }, { ...WORD, channels: ['email'] })
    expect((await account(round)).figures.letters).toBe(5)
    await suppress(t.tam, { person: await who(2) }, { ...WORD, channels: ['post'] })
    expect(await held(round)).toEqual([
      ['Barn', 'No postal address', null],
      ['Quay House', 'Somebody there asked to stop, or is held back', 'Asked us to stop'],
    ])
    // Where people are named, only those who are clear are.
    await chooseLetters(t.ines, round, { ...FIRST_CHOICE, wording: 'household', restDays: null })
    expect(await addressees(round)).toEqual([expect.stringMatching(/^Ada Owner/), expect.stringMatching(/^Cora Weir/)])
  })

  test('to owners: what the choice changes is told, an owner of several gets one letter, abroad goes its own way', async () => {
    const { round, k } = await street()
    const before = await account(round)
    expect(before.other).toEqual({ to: 'owner', clear: 4, letters: 3, abroad: 1, several: 1 })
    await chooseLetters(t.ines, round, { ...FIRST_CHOICE, to: 'owner', restDays: null, first: 'largest' })
    const now = await account(round)
    expect(now.figures).toMatchObject({ opening: 6, clear: 4, letters: 3, abroad: 1, several: 1, named: 3 })
    expect(now.other).toMatchObject({ to: 'occupier', letters: 5, abroad: 0 })
    expect(now.letters.map(({ addressee, about, place }) => [addressee, about, place])).toEqual([
      [expect.stringMatching(/^Ada/), 'Quay House', `1 Quay Street, Thornmouth, PW${k} 1AA`],
      [`Estates ${k}`, 'Maltings and Mill', `9 Long Row, Low Wendle, PW${k} 9ZZ`],
      ['Claire Dupré', 'Lodge', '12 rue des Lilas, Nantes, 44000, France'],
    ])
    await release(round)
    const rows = await inFile(round)
    expect(rows.map((row) => row.slice(8).filter(Boolean))).toContainEqual(['Claire Dupré', '12 rue des Lilas', '44000 Nantes', 'FRANCE'])
  })

  test('what leaves is what was shown: the file, the labels and the archive hold every letter and no other', async () => {
    const { round, list } = await street()
    const shown = (await account(round)).letters
    await release(round)
    expect((await account(round)).letters.map(({ addressee, place }) => [addressee, place])).toEqual(
      shown.map(({ addressee, place }) => [addressee, place]),
    )
    expect((await inFile(round)).map((row) => [Number(row[0]), row[1]])).toEqual(shown.map(({ addressee }, i) => [i + 1, addressee]))
    expect(await tellLabels(t.ines, round, { sheet: 'a4-3x7' })).toMatchObject({ labels: 5, leftOut: 0 })
    expect((await roundLabels(t.ines, round, { sheet: 'a4-3x7' })).bytes.subarray(0, 5).toString()).toBe('%PDF-')
    expect((await allRoundFiles(t.ines, round)).bytes.length).toBeGreaterThan(500)
    // The same again, byte for byte.
    expect((await roundFile(t.ines, round, 'post')).sha256).toBe((await openPremisesRound(t.ines, round)).file?.sha256)
    expect(await t.app('entry').where({ round_id: round, kind: 'released' }).whereNotNull('premises_id').count('* as n').first()).toEqual({
      n: 5,
    })
    expect((await todayPage(t.ines)).moves.find(({ key }) => key === `round ${round}`)).toMatchObject({ n: 5 })
    await expect(releasePremisesRound(t.ines, round, { print: 'x', letters: 9 })).rejects.toThrow(/released already/)
    await expect(chooseLetters(t.ines, round, FIRST_CHOICE)).rejects.toThrow(/stay as they are/)
    await expect(t.app('round_letter').where({ round_id: round }).update({ addressee: 'Other' })).rejects.toThrow()
    await expect(t.app('round_letter').where({ round_id: round }).delete()).rejects.toThrow()
    // Two at once: one round.
    expect(await Promise.allSettled([startRound(t.ines, list), startRound(t.marek, list)])).toMatchObject([
      { status: 'fulfilled' },
      { status: 'fulfilled' },
    ])
    expect(await t.app('round').where({ list_id: list }).count('* as n').first()).toEqual({ n: 2 })
  })
})

describe('what changes at the moment of the release', () => {
  test('a list that was saved again, other settings, or more letters than confirmed are refused', async () => {
    const { round, list } = await street()
    const { print, figures } = await account(round)
    await expect(releasePremisesRound(t.ines, round, { print: print as string, letters: 4 })).rejects.toThrow(/5 letters can go, not 4/)
    await chooseLetters(t.ines, round, { ...FIRST_CHOICE, restDays: 5 })
    await expect(releasePremisesRound(t.ines, round, { print: print as string, letters: figures.letters })).rejects.toThrow(
      /changed since you opened/,
    )
    const again = await account(round)
    const { number, lines } = await t.app('edition').where({ list_id: list }).first('number', 'lines')
    await saveEdition(t.ines, list, number, [
      ...lines,
      { id: 'd', verb: 'drop', off: true, criterion: { kind: 'roof-area', least: 600, most: null } },
    ])
    await expect(releasePremisesRound(t.ines, round, { print: again.print as string, letters: 5 })).rejects.toThrow(
      /changed since you opened/,
    )
    expect((await t.app('round').where({ id: round }).first('released_at')).released_at).toBeNull()
    await releasePremisesRound(t.ines, round, { print: (await account(round)).print as string, letters: again.figures.letters })
    expect(await t.app('round_letter').where({ round_id: round }).count('* as n').first()).toEqual({ n: 5 })
  })

  test('a suppression that lands while the letters are made is heeded: the release begins anew', async () => {
    const { round, who } = await street({ wording: 'name or resident' })
    const { print, figures } = await account(round)
    const barrier = await t.owner.transaction()
    await barrier.raw('lock table round_file in share row exclusive mode')
    const releasing = releasePremisesRound(t.ines, round, { print: print as string, letters: figures.letters })
    for (let i = 0; i < 200; i++) {
      const { rows } = await t.owner.raw(`select 1 from pg_locks where relation = 'round_file'::regclass and not granted`)
      if (rows.length > 0) break
      await new Promise((resolve) => setTimeout(resolve, 25))
    }
    await suppress(t.tam, { person: await who(3) }, WORD)
    await barrier.commit()
    await releasing
    expect(await t.app('round_letter').where({ round_id: round }).count('* as n').first()).toEqual({ n: 4 })
    expect(await held(round)).toContainEqual(['Weir House', 'Somebody there asked to stop, or is held back', 'Asked us to stop'])
  })

  test('two who release at once release once', async () => {
    const { round } = await street()
    const { print, figures } = await account(round)
    const confirmed = { print: print as string, letters: figures.letters }
    const both = await Promise.allSettled([releasePremisesRound(t.ines, round, confirmed), releasePremisesRound(t.marek, round, confirmed)])
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
    expect(await t.app('round_letter').where({ round_id: round }).count('* as n').first()).toEqual({ n: 5 })
    expect(await t.app('entry').where({ round_id: round, kind: 'released' }).count('* as n').first()).toEqual({ n: 5 })
  })
})

describe('after the release', () => {
  test('whoever must not be written to any more is left out of file and labels, and stopped when the letters are posted', async () => {
    const { round, who, k } = await street({ wording: 'name or resident' })
    await release(round)
    await suppress(t.tam, { person: await who(3) }, WORD)
    await suppress(t.tam, { postal: { street: '5 Lodge Road', town: 'Thornmouth', postcode: `PW${k} 1AE` } }, WORD)
    // Ben is not named on the letter to Quay House, but it also goes to whoever lives there.
    const ben = await suppress(t.tam, { person: await who(2) }, WORD)
    expect(await inFile(round)).toHaveLength(2)
    expect(await inFile(round, { asReleased: true })).toHaveLength(5)
    expect(await tellLabels(t.ines, round, { sheet: 'a4-3x7' })).toMatchObject({ labels: 2, leftOut: 3 })
    expect((await openPremisesRound(t.ines, round)).file?.leftOut).toBe(3)
    expect((await account(round)).stand).toMatchObject({ stopped: 3, toPost: 2 })
    await liftSuppression(t.ines, ben, 'a mistake')
    expect(await recordPosted(t.tam, round, '2026-06-15')).toEqual({ posted: 3, stopped: 2 })
    expect((await account(round)).stand).toMatchObject({ stopped: 2, toPost: 0, posted: 3 })
    expect(await inFile(round)).toHaveLength(3)
    await expect(recordPosted(t.tam, round, '2026-06-15')).rejects.toThrow(/recorded already/)
  })

  test('posted letters are contacts of the premises and of whom they name, and taking it back goes back', async () => {
    const { round, who, premises } = await street({ wording: 'name' })
    await release(round)
    const contacts = async () => ({
      premises: Number(
        (
          await t
            .app('entry')
            .where({ kind: 'letter', premises_id: await premises(2) })
            .count('* as n')
            .first()
        )?.n,
      ),
      person: Number(
        (
          await t
            .app('entry')
            .where({ kind: 'contact', person_id: await who(3), channel: 'post' })
            .count('* as n')
            .first()
        )?.n,
      ),
      toCome: Number((await t.app('contact_to_come').where({ round_id: round }).whereNull('ended_at').count('* as n').first())?.n),
      attempts:
        (
          await t
            .app('facts')
            .where({ person_id: await who(3) })
            .first('last_channel')
        )?.last_channel ?? null,
    })
    expect(await contacts()).toEqual({ premises: 0, person: 0, toCome: 2, attempts: null })
    await recordPosted(t.tam, round, '2026-06-15')
    expect(await contacts()).toEqual({ premises: 1, person: 1, toCome: 0, attempts: 'post' })
    expect(await takeBackPosted(t.tam, round)).toEqual({ back: 2 })
    expect((await account(round)).stand).toMatchObject({ posted: 0, toPost: 2, days: null })
    const { rows } = await t.app.raw(
      `select count(*)::int as n from entry e where e.round_id = ? and e.kind in ('contact', 'letter') and not exists (select 1 from entry r where r.reverses_id = e.id)`,
      [round],
    )
    expect(rows[0].n).toBe(0)
    expect((await contacts()).toCome).toBe(2)
    await recordPosted(t.tam, round, '2026-06-15')
    expect((await account(round)).stand).toMatchObject({ posted: 2 })
    await expect(takeBackPosted(t.ines, 999_999)).rejects.toThrow(/no such round/)
  })

  test('a day that cannot be is refused, and so is a letter that was not posted', async () => {
    const { round } = await street()
    await expect(recordPosted(t.tam, round, '2026-06-15')).rejects.toThrow(/not released/)
    await release(round)
    await expect(recordPosted(t.tam, round, '2026-06-16')).rejects.toThrow(/is to come/)
    await expect(recordPosted(t.tam, round, '2026-06-14')).rejects.toThrow(/at the earliest/)
    await expect(recordPosted(t.tam, round, '2026-02-30')).rejects.toThrow(/Give the day/)
    await expect(recordLetter(t.tam, round, 1, 'answered')).rejects.toThrow(/not recorded as posted/)
    await expect(recordLetter(t.tam, round, 99, 'answered')).rejects.toThrow(/no such letter/)
    await expect(recordLetter(t.tam, round, 1, 'liked it')).rejects.toThrow(/Choose what was heard/)
  })

  test('what is heard of letters closes the account, and one that came back holds its address back next time', async () => {
    const { round, list, who, k } = await street({ wording: 'name or resident' })
    await release(round)
    await recordPosted(t.tam, round, '2026-06-15')
    const number = async (street: string) => (await account(round)).letters.find(({ place }) => place.startsWith(street))?.number as number
    await recordLetter(t.tam, round, await number('3 Mill'), 'came back')
    await recordLetter(t.tam, round, await number('4 Malt'), 'answered')
    await recordLetter(t.tam, round, await number('2 Weir'), 'asked us to stop')
    await recordLetter(t.tam, round, await number('5 Lodge'), 'asked us to stop')
    const { stand, figures } = await account(round)
    expect(stand).toMatchObject({ posted: 1, 'came back': 1, answered: 1, 'asked us to stop': 2 })
    expect(figures.letters).toBe(5)
    // Whoever is named is suppressed; where nobody is, the address.
    expect(
      await t
        .app('suppression')
        .where({ person_id: await who(3), reason: 'opt-out' })
        .count('* as n')
        .first(),
    ).toEqual({ n: 1 })
    const again = await startRound(t.ines, list)
    await chooseLetters(t.ines, again, { ...FIRST_CHOICE, restDays: null })
    expect(await held(again)).toEqual([
      ['Barn', 'No postal address', null],
      ['Lodge', 'Address asked to stop, or held back', 'Asked us to stop'],
      ['Mill', 'Address asked to stop, or held back', 'Post came back'],
      ['Weir House', 'Somebody there asked to stop, or is held back', 'Asked us to stop'],
    ])
    // Late news of a closed round are still recorded, and taken back.
    await recordLetter(t.tam, round, await number('3 Mill'), null)
    expect((await held(again)).map(([name]) => name)).not.toContain('Mill')
    await expect(recordLetter(t.tam, round, await number('2 Weir'), null)).rejects.toThrow(/Lift it under Screening/)
    expect(k).toBeGreaterThan(0)
  })

  test('the next round leaves out who was written to lately, or is in another round, and tells who joined and left', async () => {
    const { round, list, who } = await street({ wording: 'name' })
    await release(round)
    const other = await createList(t.ines, `Other ${round}`, true, (await t.app('edition').where({ list_id: list }).first('lines')).lines)
    const theirs = await startRound(t.ines, other)
    await chooseLetters(t.ines, theirs, { ...FIRST_CHOICE, wording: 'resident', restDays: null })
    expect((await held(theirs)).filter(([, rule]) => rule === 'In another open round').map(([name, , detail]) => [name, detail])).toEqual([
      ['Quay House', expect.stringMatching(/^Houses \d+, round 1$/)],
      ['Weir House', expect.stringMatching(/^Houses \d+, round 1$/)],
    ])
    await recordPosted(t.tam, round, '2026-06-15')
    pinClock(new Date('2026-07-01T09:00:00Z'))
    const next = await startRound(t.ines, list)
    await chooseLetters(t.ines, next, { ...FIRST_CHOICE, wording: 'resident', restDays: 30 })
    expect((await held(next)).filter(([, rule]) => rule === 'Written to lately').map(([name]) => name)).toEqual([
      'Quay House',
      'Weir House',
    ])
    await chooseLetters(t.ines, next, { ...FIRST_CHOICE, wording: 'resident', restDays: 15 })
    expect((await account(next)).figures.letters).toBe(5)
    // A letter by hand counts where the letter would name them.
    await recordContact(t.tam, await who(3), { channel: 'post', result: 'sent', date: '2026-06-30' })
    await chooseLetters(t.ines, next, { ...FIRST_CHOICE, wording: 'name', restDays: 15 })
    expect((await held(next)).map(([name, rule]) => [name, rule])).toContainEqual(['Weir House', 'Written to lately'])
    await chooseLetters(t.ines, next, { ...FIRST_CHOICE, wording: 'resident', restDays: null, onlyNew: true })
    expect((await held(next)).filter(([, rule]) => rule === 'Got a letter of an earlier round').map(([name]) => name)).toEqual([
      'Quay House',
      'Weir House',
    ])
    expect((await account(next)).since).toEqual({ round: 1, before: 6, joined: 0, left: 0, now: 6 })
    pinClock(NOW)
  })

  test('an erasure takes whom a letter names out of it and withdraws the file; the account stays', async () => {
    const { round, who } = await street({ wording: 'name or resident' })
    await release(round)
    const name = (
      await t
        .app('person')
        .where({ id: await who(3) })
        .first('name')
    ).name as string
    await erasePerson(t.marek, await who(3))
    const kept = await t.owner('round_letter').where({ round_id: round }).select('addressee', 'street')
    expect(kept.filter(({ addressee }) => addressee === 'Erased person')).toEqual([{ addressee: 'Erased person', street: null }])
    expect(JSON.stringify(kept)).not.toContain(name)
    await expect(roundFile(t.ines, round, 'post')).rejects.toThrow(/erased on request/)
    await expect(roundFile(t.ines, round, 'post', { asReleased: true })).rejects.toThrow(/erased on request/)
    await expect(roundLabels(t.ines, round, { sheet: 'a4-3x7' })).rejects.toThrow(/withdrawn/)
    expect((await account(round)).figures.letters).toBe(5)
    expect((await account(round)).stand).toMatchObject({ stopped: 1, toPost: 4 })
  })

  test('a person who was merged is contacted once, under the record that stayed', async () => {
    const { round, who } = await street({ wording: 'name' })
    await release(round)
    const [gone, stays] = [await who(3), await who(2)]
    await t.owner('person').where({ id: gone }).update({ state: 'merged', merged_into: stays })
    await recordPosted(t.tam, round, '2026-06-15')
    expect(await t.app('entry').where({ kind: 'contact', person_id: stays, channel: 'post' }).count('* as n').first()).toEqual({ n: 1 })
    expect(await t.app('entry').where({ kind: 'contact', person_id: gone }).count('* as n').first()).toEqual({ n: 0 })
  })

  test('closing says of each letter that was not posted that it was not worked', async () => {
    const { round } = await street()
    await release(round)
    await closeRound(t.ines, round)
    const { rows } = await t.app.raw(
      `select count(*)::int as n from entry where round_id = ? and kind = 'not worked' and premises_id is not null`,
      [round],
    )
    expect(rows[0].n).toBe(5)
    await expect(recordPosted(t.tam, round, '2026-06-15')).rejects.toThrow(/closed/)
  })
})

describe('other ways in', () => {
  test('a round of premises is no round of people, and the other way round', async () => {
    const { round, list } = await street()
    await expect(openRound(t.ines, round)).rejects.toThrow(/letters to premises/)
    await expect(screenRound(t.ines, round, { tab: 'clear' })).rejects.toThrow(/letters to premises/)
    await expect(releaseRound(t.ines, round)).rejects.toThrow(/letters to premises/)
    await expect(requalifyList(t.ines, list, { tab: 'left' } as never)).rejects.toThrow(/sends letters to premises/)
    await expect(roundsOfList(t.ines, list)).rejects.toThrow(/send letters to premises/)
    const people = await createList(t.ines, `People ${round}`, true)
    const own = await startRound(t.ines, people)
    for (const ask of [
      openPremisesRound,
      (who: Actor, id: number) => chooseLetters(who, id, FIRST_CHOICE),
      (who: Actor, id: number) => recordPosted(who, id, '2026-06-15'),
    ])
      await expect(ask(t.ines, own)).rejects.toThrow(/goes to people/)
    await release(round)
    await expect(roundFile(t.ines, round, 'post', { layout: {} })).rejects.toThrow(/comes as it is/)
    await expect(roundFile(t.ines, round, 'post', { colleague: t.tam.id })).rejects.toThrow(/comes as it is/)
    await expect(roundFile(t.ines, round, 'email')).rejects.toThrow(/no such file/)
  })

  test('who may see a list sees its letters, and who may not does not', async () => {
    const { round } = await street({}, false)
    await expect(openPremisesRound(t.tam, round)).rejects.toThrow(/no such list|no such round/i)
    await expect(screenPremisesRound(t.tam, round, { tab: 'letters' })).rejects.toThrow(/no such list|no such round/i)
    await expect(roundFile(t.tam, round, 'post')).rejects.toThrow()
    const { round: shared } = await street()
    await expect(chooseLetters(t.tam, shared, FIRST_CHOICE)).rejects.toThrow(/coordinators/i)
    await expect(releasePremisesRound(t.tam, shared, { print: '', letters: 1 })).rejects.toThrow(/coordinators/i)
  })
})

test('a file of the list says the same: what is closed for the owner’s or the household’s sake goes without its street', async () => {
  const { list, who } = await street()
  const lines: Line[] = (await t.app('edition').where({ list_id: list }).first('lines')).lines
  const rows = async () => {
    const { pieces } = await recordsCsv(t.tam, { list, lines, view: { tab: 'on' } })
    let text = ''
    for await (const piece of pieces) text += piece
    const [head, ...all] = text.trim().split('\r\n')
    const [name, street, post] = ['Name', 'Street', 'Post is'].map((title) => head.replace('\uFEFF', '').split(',').indexOf(title))
    return Object.fromEntries(all.map((row) => row.split(',')).map((row) => [row[name], [row[street], row[post]]]))
  }
  const owner = await suppress(t.tam, { person: await who(1) }, WORD)
  const household = await suppress(t.tam, { household: await who(3) }, WORD)
  const closed = await rows()
  expect(closed['Quay House']).toEqual(['', 'closed: suppressed'])
  expect(closed['Weir House']).toEqual(['', 'closed: suppressed'])
  expect(closed.Mill).toEqual(['3 Mill Lane', 'open'])
  for (const id of [owner, household]) await liftSuppression(t.ines, id, 'sold')
  // What is held back for calls alone is no matter for a letter, here as in the account.
  await suppress(t.tam, { household: await who(3) }, { ...WORD, channels: ['phone'] })
  const open = await rows()
  expect([open['Quay House'], open['Weir House']]).toEqual([
    ['1 Quay Street', 'open'],
    ['2 Weir Street', 'open'],
  ])
})
