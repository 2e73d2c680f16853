import { describe, expect, test } from 'vitest'
import { POST as press } from '@/app/stop/[token]/now/route'
import { suppress } from '@/usecases/screening/suppress'
import { erasePerson } from '@/usecases/directory/erase-person'
import { beginMail } from '@/usecases/rounds/begin-mail'
import { checkLetter } from '@/usecases/rounds/check-letter'
import { closeRound } from '@/usecases/rounds/close-round'
import { letterPage } from '@/usecases/rounds/letter-page'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundResults } from '@/usecases/rounds/round-results'
import { screenRound } from '@/usecases/rounds/screen-round'
import { sendOneToMe } from '@/usecases/rounds/send-one-to-me'
import { startRound } from '@/usecases/rounds/start-round'
import { stopPage } from '@/usecases/rounds/stop-emails'
import { writeLetter } from '@/usecases/rounds/write-letter'
import { broughtIn } from '../../support/database'
import { begunRound, givenMail, later, LETTER, linkTo, mail, roundOf, t } from './mail-rounds'

givenMail()

const seenOf = async (round: number) => (await letterPage(t.ines, round)).saved?.at ?? ''
const begin = async (round: number, seen?: string) => beginMail(t.ines, round, { seen: seen ?? (await seenOf(round)), perMinute: 100_000 })

describe('the letter of a list', () => {
  test('is held against everybody who is clear, before the release and after it', async () => {
    const { round, ids } = await roundOf(4)
    await suppress(t.tam, { person: ids[3] }, { reason: 'opt-out', channels: ['email'], word: 'a call' })
    const before = await checkLetter(t.tam, round, LETTER, 1)
    expect(before).toMatchObject({
      troubles: [],
      people: 3,
      due: null,
      gaps: [{ field: 'role', people: 2, standIn: 'a neighbour' }],
      shown: { n: 1, person: ids[1], subject: 'Your roof, Personab' },
    })
    await releaseRound(t.ines, round)
    expect(await checkLetter(t.tam, round, { ...LETTER, subject: '{nobody}' }, 99)).toMatchObject({
      troubles: [expect.stringMatching(/^Subject: there is no field “nobody”/)],
      people: 3,
      due: 3,
      shown: { n: 2, person: ids[2] },
    })
  })

  test('goes with the list from round to round, and the one that left stays with its round', async () => {
    const { round, list, send } = await begunRound(2)
    await send()
    await expect(writeLetter(t.ines, round, LETTER, await seenOf(round))).rejects.toThrow('leaving already')
    await closeRound(t.ines, round)
    later()
    const next = await startRound(t.ines, list)
    expect((await letterPage(t.ines, next)).letter).toEqual(LETTER)
    await writeLetter(t.ines, next, { ...LETTER, subject: 'Once more' }, await seenOf(next))
    expect((await letterPage(t.ines, round)).letter.subject).toBe(LETTER.subject)
  })

  test('is not written over one that a colleague saved meanwhile, and says everything that is wrong with it', async () => {
    const { round } = await roundOf(1)
    const seen = await seenOf(round)
    await writeLetter(t.marek, round, { ...LETTER, subject: 'Marek’s' }, seen)
    await expect(writeLetter(t.ines, round, LETTER, seen)).rejects.toThrow('Marek Dunn saved this letter meanwhile. Yours was not saved.')
    await expect(writeLetter(t.tam, round, LETTER, await seenOf(round))).rejects.toThrow('for coordinators')
    await expect(
      writeLetter(t.ines, round, { ...LETTER, subject: ' ', address: '', senderEmail: 'nobody' }, await seenOf(round)),
    ).rejects.toThrow()
    await expect(writeLetter(t.ines, round, { ...LETTER, body: 'Dear {nick name' }, await seenOf(round))).rejects.toThrow(
      'Line 1: a brace is opened and not closed',
    )
    expect((await letterPage(t.ines, round)).letter.subject).toBe('Marek’s')
  })

  test('one goes to oneself, and is no contact of anybody', async () => {
    const { round, ids } = await roundOf(2)
    expect(await sendOneToMe(t.ines, round, LETTER, 1)).toBe('ines@brackenfold.example')
    const sent = mail.taken.at(-1)
    expect([sent?.to, sent?.subject]).toEqual(['ines@brackenfold.example', 'Your roof, Personab'])
    expect(sent?.raw).not.toMatch(/List-Unsubscribe/i)
    expect(await t.app('entry').whereIn('person_id', ids).where({ kind: 'contact' })).toEqual([])
  })
})

describe('sending is refused', () => {
  test('before the release, of a letter nobody looked at, with gaps, twice, by a caller, and after closing', async () => {
    const { round } = await roundOf(3)
    await expect(begin(round)).rejects.toThrow('Release the round first')
    await releaseRound(t.ines, round)
    const seen = await seenOf(round)
    await writeLetter(t.marek, round, { ...LETTER, body: 'As {role}' }, seen)
    await expect(begin(round, seen)).rejects.toThrow('Marek Dunn saved another letter meanwhile. Nothing was sent.')
    await expect(begin(round)).rejects.toThrow('2 of 3 people have no role, and nothing stands in for it')
    await expect(beginMail(t.tam, round, { seen, perMinute: 10 })).rejects.toThrow('for coordinators')
    await writeLetter(t.ines, round, LETTER, await seenOf(round))
    const both = await Promise.allSettled([begin(round), begin(round)])
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
    expect((await t.app('mail_run').where({ round_id: round })).length).toBe(1)
    const other = await roundOf(1)
    await releaseRound(t.ines, other.round)
    await closeRound(t.ines, other.round)
    await expect(begin(other.round)).rejects.toThrow('The round is closed')
  })
})

describe('the link in an email', () => {
  const pressed = (token: string, oneClick = false) =>
    press(
      new Request('http://localhost/stop', {
        method: 'POST',
        ...(oneClick ? { body: new URLSearchParams({ 'List-Unsubscribe': 'One-Click' }) } : {}),
      }),
      { params: Promise.resolve({ token }) },
    )

  test('stops emails by a POST at once and for good, to the person and to whoever has the address; looking at it stops nothing', async () => {
    const { round, list, ids, to, send } = await begunRound(3)
    await send()
    const token = linkTo(to[0])
    expect(await stopPage(token)).toEqual({ sender: 'Fen Roofs', to: `p…@${to[0].split('@')[1]}`, stopped: false })
    expect(await t.app('suppression').where({ person_id: ids[0] })).toEqual([])
    later()
    // Mail programs may press twice at once.
    const [first, second] = await Promise.all([pressed(token, true), pressed(token, true)])
    expect([first.status, second.status]).toEqual([200, 200])
    expect(await stopPage(token)).toMatchObject({ stopped: true })
    const said = await t
      .app('suppression')
      .where('word', 'like', '%by the link in the email of round 1')
      .orderBy('id')
      .select('scope', 'reason', 'channels')
    expect(said).toEqual([{ scope: 'person', reason: 'opt-out', channels: ['email'] }])
    expect((await roundResults(t.ines, round)).results).toMatchObject({ counts: { answered: 1, reached: 2 }, optOuts: 1 })
    // Whoever comes in with the same address is held back, and so are they in the next round.
    await broughtIn(t.ines, 'again.csv', `Id,Name,Email\nAGAIN-1,Quite Another,${to[0]}\n`)
    const again = await t.app('person').where({ outside_id: 'AGAIN-1' }).first('id')
    expect(await t.app('suppression_touch').where({ person_id: again?.id }).count('suppression_id as n').first()).toMatchObject({ n: 1 })
    await closeRound(t.ines, round)
    later()
    const next = await startRound(t.ines, list)
    const held = await screenRound(t.ines, next, { tab: 'held' })
    expect(held.page.people.map(({ id }) => id)).toContain(ids[0])
  })

  test('closes the address the email went to, even where it is theirs no longer', async () => {
    const { ids, to, send } = await begunRound(1)
    await send()
    await t.owner('address').where({ person_id: ids[0], channel: 'email' }).delete()
    await pressed(linkTo(to[0]), true)
    await broughtIn(t.ines, 'theirs.csv', `Id,Name,Email\nTHEIRS-1,Whoever Hasit,${to[0]}\n`)
    const theirs = await t.app('person').where({ outside_id: 'THEIRS-1' }).first('id')
    const said = await t
      .app('suppression_touch as k')
      .join('suppression as s', 's.id', 'k.suppression_id')
      .where('k.person_id', theirs?.id)
      .select('scope')
    expect(said).toEqual([{ scope: 'email' }])
  })

  test('pressed on its page leads back to it; a wrong one is told so, and changes nothing', async () => {
    const { to, send } = await begunRound(2)
    await send()
    const token = linkTo(to[0])
    const wrong = `${token.slice(0, -1)}${token.endsWith('A') ? 'B' : 'A'}`
    for (const bad of [wrong, token.split('.')[0], '', `${linkTo(to[1]).split('.')[0]}.${token.split('.')[1]}`]) {
      expect((await pressed(bad)).status).toBe(404)
      await expect(stopPage(bad)).rejects.toThrow('This link is incomplete or not ours')
    }
    expect((await stopPage(token)).stopped).toBe(false)
    const there = await pressed(token)
    expect([there.status, there.headers.get('location')]).toEqual([303, `/stop/${token}`])
    expect((await stopPage(token)).stopped).toBe(true)
    expect((await stopPage(linkTo(to[1]))).stopped).toBe(false)
  })

  test('of somebody who was erased says that it is stopped, and keeps nothing of them', async () => {
    const { ids, to, send } = await begunRound(1)
    await send()
    const token = linkTo(to[0])
    await erasePerson(t.marek, ids[0])
    expect(await stopPage(token)).toMatchObject({ stopped: true, to: null })
    expect((await pressed(token, true)).status).toBe(200)
  })
})

test('an erasure takes the name of somebody out of letters, too', async () => {
  const { round, ids } = await roundOf(1)
  const { name } = await t.app('person').where({ id: ids[0] }).first('name')
  await writeLetter(t.ines, round, { ...LETTER, body: `As I told ${name} last week` }, await seenOf(round))
  await erasePerson(t.marek, ids[0])
  expect((await letterPage(t.ines, round)).letter.body).toBe('As I told [erased] last week')
})
