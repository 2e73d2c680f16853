import { expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { firstPolicy } from '@/core/screening/rules'
import { migrationSource } from '@/db/prepare'
import { createList } from '@/usecases/lists/create-list'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { startRound } from '@/usecases/rounds/start-round'
import { policyIndex } from '@/usecases/screening/policy-index'
import { broughtIn, freshDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

/** From before rules had ids: a round's rules as they stood, frozen people and figures by the place of their rule. */
test('what rounds froze by places is told by ids, the same as before; a list that went by other rules keeps them', async () => {
  const t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'people.csv',
    'Id,Name,Email,Status\nM1,Ada Customer,ada@before.example,customer\nM2,Ben Clear,ben@before.example,prospect\n',
  )
  const start: Line = { id: 's', verb: 'start', off: false, batch: null }
  const own = await createList(t.ines, 'Own rules', true, [start])
  const plain = await createList(t.ines, 'The usual rules', true, [start])
  const days = firstPolicy().map((rule) => (rule.kind === 'contacted-within' ? { ...rule, days: 5 } : rule))
  const released = await startRound(t.ines, own)
  await setRules(t.ines, released, days)
  await releaseRound(t.ines, released)
  const second = await startRound(t.ines, own)
  await setRules(t.ines, second, days)
  await releaseRound(t.ines, second)
  const building = await startRound(t.ines, plain)
  const told = async (round: number) => {
    const { figures, page } = await screenRound(t.ines, round, { tab: 'held' })
    return { figures, people: page.people.map((p) => [p.name, p.because]) }
  }
  const before = [await told(released), await told(second)]
  const kept = async () => (await t.owner('round').orderBy('id').select('rules', 'figures')).map((row) => JSON.stringify(row))
  const frozen = await kept()

  const { up, down } = await migrationSource.getMigration('0021_policies.sql')
  await down?.(t.owner)
  const places = await t.owner('round_member').whereNotNull('held_by').distinct('held_by')
  expect(places).toEqual([{ held_by: firstPolicy().findIndex((rule) => rule.kind === 'customers') }])
  expect((await t.owner('round').where({ id: released }).first('rules')).rules[0]).toEqual({ kind: 'no-way-to-reach' })
  await up(t.owner)

  expect(await kept()).toEqual(frozen)
  expect([await told(released), await told(second)]).toEqual(before)
  const policies = await policyIndex(t.ines)
  expect(policies.map(({ name, isDefault, lists }) => [name, isDefault, lists])).toEqual([
    ['Team policy', true, 1],
    ['Rules of Own rules', false, 1],
  ])
  const next = await startRound(t.ines, own)
  expect((await openRound(t.ines, next)).rules.map(({ rule }) => rule).find((rule) => rule.kind === 'contacted-within')).toMatchObject({
    days: 5,
  })
  expect((await openRound(t.ines, building)).policy).toMatchObject({ name: 'Team policy', edition: 1 })
  expect((await openRound(t.ines, building)).ruleChanges).toBeNull()
})
