import { expect, test } from 'vitest'
import { newRule } from '@/core/screening/new-rule'
import { pinClock } from '@/runtime/clock'
import { saveEdition } from '@/usecases/lists/save-edition'
import { openList } from '@/usecases/lists/open-list'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { requalifyList } from '@/usecases/rounds/requalify-list'
import { screenRound } from '@/usecases/rounds/screen-round'
import { setOnlyNew } from '@/usecases/rounds/set-only-new'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn } from '../../support/database'
import { roundFile } from '@/usecases/rounds/round-file'
import { setRules } from '@/usecases/rounds/set-rules'
import { shareFile } from '@/usecases/rounds/share-file'
import { startRound } from '@/usecases/rounds/start-round'
import { builtRound, givenRounds, t } from './released-while'

givenRounds()

test('what a round did stands as steps in the next one, with what differs until it is released', async () => {
  const { round, list } = await builtRound()
  expect((await openRound(t.ines, round)).last).toBeNull()
  await releaseRound(t.ines, round)
  await shareFile(t.ines, round, 'email', { colleagues: [{ id: t.tam.id, share: 2 }] })
  pinClock(new Date('2026-06-15T10:00:00Z'))
  await roundFile(t.tam, round, 'email', { colleague: t.tam.id })
  pinClock(new Date('2026-08-15T10:00:00Z'))
  const next = await startRound(t.ines, list)
  expect((await openRound(t.tam, next)).last).toMatchObject({
    id: round,
    number: 1,
    clear: { email: 3, phone: 0, post: 0, direct: 0 },
    differs: [],
    sharing: [{ channel: 'email', how: { colleagues: [{ id: t.tam.id, share: 2 }], known: true, had: true } }],
    steps: [
      { text: `Share out the contacts by email among ${t.tam.name}`, by: [t.ines.name], done: false },
      { text: 'Download the email file', by: [t.tam.name], done: false },
    ],
  })
  const { lines, edition } = await openList(t.ines, list)
  await saveEdition(t.ines, list, edition, [
    ...lines,
    { id: 'x', verb: 'drop', off: false, unknownAsYes: false, criterion: { kind: 'tag', any: ['x'] } },
  ] as never)
  const { rules } = await openRound(t.ines, next)
  await setRules(
    t.ines,
    next,
    [
      ...rules.map(({ rule }) => rule),
      newRule(
        'one-channel',
        rules.map(({ rule }) => rule),
      ),
    ],
    'cheaper',
  )
  expect((await openRound(t.ines, next)).last?.differs).toEqual([
    'The list: edition 2, edition 1 in round 1',
    expect.stringMatching(/^One channel each.*: added$/),
  ])
  await releaseRound(t.ines, next)
  await roundFile(t.ines, next, 'email')
  const { last } = await openRound(t.ines, next)
  expect(last?.differs).toEqual([])
  expect(last?.steps.map(({ done }) => done)).toEqual([false, true])
})

test('a round for new people alone drops whoever an earlier round released, and says so; who was held back is new still', async () => {
  pinClock(new Date('2026-09-01T09:00:00Z'))
  const { round, list, batch, ids } = await builtRound()
  await expect(setOnlyNew(t.ines, round, true)).rejects.toThrow('the first round of its list')
  // One is held back in it.
  await suppress(t.tam, { person: ids[2] }, { reason: 'agreed pause', channels: ['email'], word: 'a call', until: '2026-10-01' })
  await releaseRound(t.ines, round)
  pinClock(new Date('2026-12-01T09:00:00Z'))
  const next = await startRound(t.ines, list, true)
  const clear = async (of: number) => (await screenRound(t.ines, of, { tab: 'clear' })).page.people.map(({ id }) => id)
  expect(await clear(next)).toEqual([ids[2]])
  expect((await screenRound(t.ines, next, { tab: 'clear' })).figures).toMatchObject({ opening: 1, anyone: 1 })
  await expect(setOnlyNew(t.tam, next, false)).rejects.toThrow('for coordinators')
  // What somebody saw before it was changed cannot be released.
  const seen = await screenRound(t.ines, next, { tab: 'clear' })
  await setOnlyNew(t.ines, next, false)
  expect((await clear(next)).sort((a, b) => a - b)).toEqual(ids)
  await expect(releaseRound(t.ines, next, { basis: seen.basis as string, clear: seen.figures.clear })).rejects.toThrow(
    'Nothing was released',
  )
  await setOnlyNew(t.ines, next, true)
  // Somebody new comes onto the list.
  await broughtIn(t.ines, 'more.csv', `Id,Name,Organisation,Email,Status\nNEW-1,Dan Newcomer,House 9,dan@newcomer.example,prospect\n`)
  const fresh = (await t.app('person').where({ outside_id: 'NEW-1' }).first('id'))?.id as number
  const { lines, edition } = await openList(t.ines, list)
  const more = (await t.app('person').where({ id: fresh }).first('batch_id'))?.batch_id
  await saveEdition(t.ines, list, edition, [
    ...lines,
    { id: 'a', verb: 'add', off: false, unknownAsYes: false, criterion: { kind: 'batch', batch: { id: more, name: 'more' } } },
  ] as never)
  expect((await clear(next)).sort((a, b) => a - b)).toEqual([ids[2], fresh].sort((a, b) => a - b))
  await releaseRound(t.ines, next)
  expect((await openRound(t.ines, next)).onlyNew).toBe(true)
  expect((await roundFile(t.ines, next, 'email')).bytes.toString()).not.toContain(`a${ids[0]}`)
  await expect(setOnlyNew(t.ines, next, false)).rejects.toThrow('frozen')
  // The next round is held against it by the lines it had: nobody left for a reason that is none.
  pinClock(new Date('2027-03-01T09:00:00Z'))
  const account = await requalifyList(t.ines, list, { account: 'listed', tab: 'left' })
  expect(account.listed).toMatchObject({ opening: 2, left: 0, joined: 2 })
  expect(account.causes.listed.join()).not.toContain('a line that is gone')
  const third = await startRound(t.ines, list, true)
  expect(await clear(third)).toEqual([])
  expect(batch).toBeGreaterThan(0)
})
