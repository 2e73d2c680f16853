import { expect, test } from 'vitest'
import { newRule } from '@/core/screening/new-rule'
import { pinClock } from '@/runtime/clock'
import { saveEdition } from '@/usecases/lists/save-edition'
import { openList } from '@/usecases/lists/open-list'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
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
