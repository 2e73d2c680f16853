import { describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { FIRST_CHOICE } from '@/core/rounds/letter-choice'
import { recordsCsv } from '@/usecases/directory/export-records'
import { mergePeople } from '@/usecases/directory/merge-people'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { allRoundFiles } from '@/usecases/rounds/all-round-files'
import { chooseLetters } from '@/usecases/rounds/choose-letters'
import { openPremisesRound } from '@/usecases/rounds/open-premises-round'
import { openRound } from '@/usecases/rounds/open-round'
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
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { suppress } from '@/usecases/screening/suppress'
import type { Actor } from '@/usecases/team/actor'
import { todayPage } from '@/usecases/team/today'
import { broughtIn } from '../../support/database'
import { account, addressees, givenStreets, held, inFile, release, street, t, WORD } from './streets'

givenStreets()

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

  test('whoever gets post there and asked us to stop holds the house back, by any of their records; nothing is stopped right after a release', async () => {
    const { round, who, k, letter } = await street({ wording: 'resident' })
    // Cora moved: the record that stays has another address, and post still reached her in Weir Street.
    const gone = await who(3)
    await broughtIn(
      t.ines,
      `moved-${k}.csv`,
      `Id,Name,Email,Address,Town,Postcode\nM${k},Cora Weir${letter},cora@moved${k}.example,8 Hill Road,Low Wendle,PW${k} 8AA\n`,
    )
    const moved = (
      await t
        .app('person')
        .where({ outside_id: `M${k}` })
        .first('id')
    ).id
    await mergePeople(t.ines, moved, gone)
    expect((await account(round)).figures.letters).toBe(5)
    const asked = await suppress(t.tam, { person: moved }, WORD)
    expect(await held(round)).toContainEqual(['Weir House', 'Somebody there asked to stop, or is held back', 'Asked us to stop'])
    await release(round)
    expect((await account(round)).stand).toMatchObject({ toPost: 4, stopped: 0 })
    await liftSuppression(t.ines, asked, 'by mistake')
    expect((await account(round)).stand).toMatchObject({ toPost: 4, stopped: 0 })
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
