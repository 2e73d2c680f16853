import { describe, expect, test } from 'vitest'
import { FIRST_CHOICE } from '@/core/rounds/letter-choice'
import { pinClock } from '@/runtime/clock'
import { recordContact } from '@/usecases/contact/record-contact'
import { proofOf } from '@/usecases/directory/proof'
import { erasePerson } from '@/usecases/directory/erase-person'
import { createList } from '@/usecases/lists/create-list'
import { chooseLetters } from '@/usecases/rounds/choose-letters'
import { closeRound } from '@/usecases/rounds/close-round'
import { openPremisesRound } from '@/usecases/rounds/open-premises-round'
import { roundIndex } from '@/usecases/rounds/round-index'
import { todayPage } from '@/usecases/team/today'
import { recordLetter } from '@/usecases/rounds/record-letter'
import { recordPosted } from '@/usecases/rounds/record-posted'
import { roundFile } from '@/usecases/rounds/round-file'
import { roundLabels, tellLabels } from '@/usecases/rounds/round-labels'
import { startRound } from '@/usecases/rounds/start-round'
import { takeBackPosted } from '@/usecases/rounds/take-back-posted'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { suppress } from '@/usecases/screening/suppress'
import { account, addressees, givenStreets, held, inFile, NOW, release, street, t, WORD } from './streets'

givenStreets()

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
    // Whoever took the file as it was released has letters that must not leave; the first time they were left out.
    expect((await openPremisesRound(t.ines, round)).file).toMatchObject({ leftOut: 3, takenBy: [{ name: t.ines.name }] })
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

  test('why was I contacted? tells of the letter, why it named them, and who released it', async () => {
    const { round, who, k } = await street({ wording: 'name' })
    await release(round)
    await recordPosted(t.tam, round, '2026-06-15')
    const { sections, contacted } = await proofOf(t.ines, await who(3), '2026-06-15')
    expect(contacted).toBe(true)
    expect(sections[0].lines[0][1]).toContain(`in round 1 of Houses ${k}`)
    expect(sections.find(({ title }) => title.startsWith(`Round 1 of Houses ${k}: letter`))?.lines).toEqual([
      ['Addressed to', expect.stringMatching(/^Cora Weir.*, 2 Weir Street, Thornmouth/)],
      ['As somebody who is at', 'Weir House'],
      ['Released', 'on 15 Jun 2026 by Ines Okafor'],
    ])
  })

  test('whoever asks us to stop after the day of posting got their letter, however late it is recorded', async () => {
    const { round, who } = await street({ wording: 'name' })
    await release(round)
    pinClock(new Date('2026-06-16T09:00:00Z'))
    await suppress(t.tam, { person: await who(3) }, WORD)
    const before = await Promise.allSettled([recordPosted(t.tam, round, '2026-06-15'), recordPosted(t.ines, round, '2026-06-15')])
    // Two at once: one of them records.
    expect(before.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
    expect((await account(round)).stand).toMatchObject({ posted: 2, stopped: 0 })
    await takeBackPosted(t.tam, round)
    expect(await recordPosted(t.tam, round, '2026-06-16')).toEqual({ posted: 1, stopped: 1 })
    pinClock(NOW)
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
    // What is not posted yet is the same number on the page, among the rounds and on the first page.
    expect((await roundIndex(t.ines)).find(({ id }) => id === round)?.toCome).toBe(4)
    expect((await todayPage(t.ines)).moves.find(({ key }) => key === `round ${round}`)).toMatchObject({ n: 4 })
  })

  test('a letter whose person was erased after it was posted takes no stop, which would be of nobody', async () => {
    const { round, who } = await street({ wording: 'name' })
    await release(round)
    await recordPosted(t.tam, round, '2026-06-15')
    await erasePerson(t.marek, await who(3))
    const { number } = await t.owner('round_letter').where({ round_id: round, addressee: 'Erased person' }).first('number')
    await expect(recordLetter(t.tam, round, number, 'asked us to stop')).rejects.toThrow(/erased on request/)
    await recordLetter(t.tam, round, number, 'came back')
    expect((await account(round)).stand).toMatchObject({ 'came back': 1, posted: 1 })
  })

  test('somebody who opts out between a household’s two letters is in neither the next letter nor the one that did not leave yet', async () => {
    const { round, list, who } = await street({ wording: 'household' })
    expect(await addressees(round)).toContainEqual(expect.stringMatching(/^Ada and Ben Owner/))
    await release(round)
    const both = (await account(round)).letters.find(({ addressee }) => addressee.startsWith('Ada and Ben'))
    await suppress(t.tam, { person: await who(1) }, WORD)
    expect((await inFile(round)).map((row) => row[1])).not.toContain(both?.addressee)
    expect((await account(round)).stand).toMatchObject({ stopped: 1 })
    const next = await startRound(t.ines, list)
    await chooseLetters(t.ines, next, { ...FIRST_CHOICE, wording: 'household', restDays: null })
    // Ada owns the house, so no letter goes there while she must not be written to; Ben alone is named where she does not.
    expect((await held(next)).filter(([name]) => name === 'Quay House')).toEqual([
      ['Quay House', 'Owner asked to stop, or held back', 'Asked us to stop'],
    ])
    await t.owner('premises').update({ owner: null, owner_name_key: null, owner_address_key: null })
    expect(await addressees(next)).toContainEqual(expect.stringMatching(/^Ben Owner/))
    expect((await addressees(next)).join()).not.toContain('Ada')
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
