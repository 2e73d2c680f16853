import { parse } from 'csv-parse/sync'
import { expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { recordContact } from '@/usecases/contact/record-contact'
import { sayKnown } from '@/usecases/contact/say-known'
import { shareList } from '@/usecases/lists/share-list'
import { createList } from '@/usecases/lists/create-list'
import { closeRound } from '@/usecases/rounds/close-round'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { shareFile, tellShares } from '@/usecases/rounds/share-file'
import { startRound } from '@/usecases/rounds/start-round'
import { unshareFile } from '@/usecases/rounds/unshare-file'
import { suppress } from '@/usecases/screening/suppress'
import { todayPage } from '@/usecases/team/today'
import { broughtIn } from '../../support/database'
import { givenRounds, start, t } from './released-while'

givenRounds()

let k = 0
/** Six people at three organisations: two, three and one of them. */
async function released(shared = true) {
  const own = ++k
  const rows = ['A', 'A', 'B', 'B', 'B', 'C'].map(
    (house, i) => `S${own}-${i},Share${'abcdef'[i]} Own${'abcdefgh'[own]},House ${house}${own},s${i}@share${own}.example,prospect`,
  )
  const batch = await broughtIn(t.ines, `shares-${own}.csv`, `Id,Name,Organisation,Email,Status\n${rows.join('\n')}\n`)
  const ids = (await t.app('person').where({ batch_id: batch }).orderBy('id').select('id')).map((p) => p.id as number)
  const list = await createList(t.ines, `Shares ${own}`, shared, [{ ...start, batch: { id: batch, name: 'people' } } as Line])
  const round = await startRound(t.ines, list)
  await releaseRound(t.ines, round)
  return { round, list, ids }
}
const both = (how = {}) => ({
  colleagues: [
    { id: t.ines.id, share: 1 },
    { id: t.tam.id, share: 1 },
  ],
  known: true,
  had: true,
  ...how,
})
const fileOf = async (round: number, colleague: string) =>
  (parse((await roundFile(t.tam, round, 'email', { colleague })).bytes, { columns: true }) as Record<string, string>[]).map((row) =>
    Number(row['Record number']),
  )

test('contacts are shared out: told first, then each has a file of theirs, which together are the file', async () => {
  const { round, list, ids } = await released()
  await sayKnown(t.tam, ids[5], 'knows well')
  await recordContact(t.tam, ids[0], { channel: 'phone', result: 'spoke', note: null, date: null })
  // Whoever sent something to everybody has had nobody.
  await recordContact(t.ines, ids[5], { channel: 'post', result: 'sent', note: null, date: null })
  await recordContact(t.ines, ids[1], { channel: 'post', result: 'sent', note: null, date: null })
  const told = await tellShares(t.ines, round, 'email', both())
  const of = (id: string) => told.colleagues.find((own) => own.id === id)
  expect(told.people).toBe(6)
  expect(of(t.tam.id)).toMatchObject({ people: 3, knows: 1, had: 1, organisation: 1, share: 0 })
  expect(of(t.ines.id)).toMatchObject({ people: 3, share: 3 })
  expect((await openRound(t.tam, round)).shares).toEqual([])
  await shareFile(t.ines, round, 'email', both())
  const [hers, his] = [await fileOf(round, t.ines.id), await fileOf(round, t.tam.id)]
  expect([...hers, ...his].sort((a, b) => a - b)).toEqual(ids)
  expect(his.sort((a, b) => a - b)).toEqual([ids[0], ids[1], ids[5]])
  expect((await roundFile(t.tam, round, 'email', { colleague: t.tam.id })).name).toMatch(/-email-tam-reyes\.csv$/)
  // Whoever opts out leaves it, and only who took a file that names them is named.
  await roundFile(t.ines, round, 'email', { colleague: t.ines.id })
  await suppress(t.ines, { person: ids[0] }, { reason: 'opt-out', channels: ['email'], word: 'a call' })
  expect(await fileOf(round, t.tam.id)).not.toContain(ids[0])
  const page = await openRound(t.ines, round)
  expect(page.shares).toEqual([
    {
      channel: 'email',
      by: t.ines.name,
      at: expect.any(String),
      colleagues: [
        { id: t.ines.id, name: t.ines.name, people: 3, open: 3 },
        { id: t.tam.id, name: t.tam.name, people: 3, open: 2 },
      ],
    },
  ])
  expect(page.stopped[0].takenBy.map(({ name }) => name)).not.toContain(t.ines.name)
  // It is their move until the contacts are made, or they may use the list no more, whose name is then nothing to them.
  const move = async () => (await todayPage(t.tam)).moves.find(({ key }) => key === `share ${round} email`)
  expect(await move()).toMatchObject({ n: 2, href: `/rounds/${round}` })
  await shareList(t.ines, list, { team: null, members: [] })
  expect(await move()).toBeUndefined()
  await shareList(t.ines, list, { team: 'use', members: [] })
  expect(await move()).toMatchObject({ n: 2 })
  for (const id of [ids[1], ids[5]]) await recordContact(t.tam, id, { channel: 'email', result: 'sent', note: null, date: null })
  expect(await move()).toBeUndefined()
})

test('they are shared out anew, and no more; by coordinators, of rounds that are out, among those who may use the list', async () => {
  const { round } = await released()
  await shareFile(t.ines, round, 'email', both())
  await shareFile(t.ines, round, 'email', { colleagues: [{ id: t.tam.id, share: 2 }] })
  expect((await fileOf(round, t.tam.id)).length).toBe(6)
  await expect(fileOf(round, t.ines.id)).rejects.toThrow('This colleague has no contacts of this round.')
  await expect(shareFile(t.tam, round, 'email', both())).rejects.toThrow('for coordinators')
  await expect(shareFile(t.ines, round, 'phone', both())).rejects.toThrow('Nobody is contacted by phone in this round.')
  await expect(shareFile(t.ines, round, 'email', { colleagues: [] })).rejects.toThrow('Choose at least one colleague.')
  await expect(shareFile(t.ines, round, 'email', { colleagues: [{ id: 'nobody', share: 1 }] })).rejects.toThrow('may not use the list')
  await expect(shareFile(t.ines, round, 'email', { colleagues: Array(2).fill({ id: t.tam.id, share: 1 }) })).rejects.toThrow('named twice')
  await unshareFile(t.ines, round, 'email')
  await expect(unshareFile(t.ines, round, 'email')).rejects.toThrow('are not shared out')
  // Two at once: it is shared out one way or the other.
  await Promise.all([shareFile(t.ines, round, 'email', both()), shareFile(t.marek, round, 'email', both({ known: false }))])
  expect(await t.app('round_share').where({ round_id: round })).toHaveLength(6)
  await closeRound(t.ines, round)
  await expect(shareFile(t.ines, round, 'email', both())).rejects.toThrow('The round is closed.')
  const own = await released(false)
  expect((await tellShares(t.ines, own.round, 'email', null)).colleagues.map(({ id }) => id)).toEqual([t.ines.id])
  await expect(shareFile(t.ines, own.round, 'email', both())).rejects.toThrow('may not use the list')
})
