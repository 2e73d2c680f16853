import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import type { OneChannelRule } from '@/core/screening/one-channel'
import { newRule } from '@/core/screening/new-rule'
import { createList } from '@/usecases/lists/create-list'
import { listCost } from '@/usecases/lists/list-cost'
import { openPolicy } from '@/usecases/screening/open-policy'
import { policyIndex } from '@/usecases/screening/policy-index'
import { savePolicy } from '@/usecases/screening/save-policy'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let list: number
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'people.csv',
    `Id,Name,Email,Address,Town,Postcode\nC1,Ada Cost,ada@cost.example,1 Mill Lane,Thornmouth,PW1 2AB\nC2,Ben Cost,,2 Mill Lane,Thornmouth,PW1 2AB\nC3,Cyd Cost,cyd@cost.example,3 Mill Lane,Thornmouth,PW1 2AB\n`,
  )
  list = await createList(t.ines, 'Costs', true, [start])
})

/** Adds a plan to the policy that lists go by. */
async function plan(of: Partial<OneChannelRule>): Promise<void> {
  const [{ id }] = (await policyIndex(t.ines)).filter((own) => own.isDefault)
  const policy = await openPolicy(t.ines, id)
  const [newest] = policy.editions
  const rules = newest.rules.filter(({ kind }) => kind !== 'one-channel')
  const added = { ...newRule('one-channel', rules), first: 'email', second: 'post', third: 'none', fourth: 'none', ...of }
  await savePolicy(t.marek, id, newest.number, [...rules, added], 'costs')
}

test('a list costs nothing to tell where its policy sets no costs', async () => {
  expect(await listCost(t.ines, list, [start])).toBeNull()
  await plan({})
  expect(await listCost(t.ines, list, [start])).toBeNull()
})

test('by the plan of its policy, after the rules, and by each channel alone; of lines that are not saved as well', async () => {
  await plan({ costEmail: 2, costPost: 68, budget: 10 })
  // Two by email at 2p, and the one without an email by letter.
  expect(await listCost(t.ines, list, [start])).toEqual({
    planned: 2 * 2 + 68,
    people: 3,
    budget: 10,
    all: [
      { channel: 'email', people: 2, cost: 4 },
      { channel: 'post', people: 3, cost: 204 },
    ],
  })
  const ada = (await t.app('person').where({ name: 'Ada Cost' }).first('id')).id
  await suppress(t.tam, { person: ada }, { reason: 'opt-out', channels: ['email'], word: 'a letter' })
  // Whoever may not be sent an email gets a letter; all by email is still what it would be for everybody with one.
  expect(await listCost(t.ines, list, [start])).toMatchObject({ planned: 2 + 2 * 68, people: 3, all: [{ people: 2 }, { people: 3 }] })
  const some = [start, { id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'reach', channel: 'email' } }]
  expect(await listCost(t.ines, list, some)).toMatchObject({
    planned: 2 + 68,
    people: 2,
    all: [{ people: 2 }, { channel: 'post', people: 2 }],
  })
})

test('whoever may not see the list is told nothing of it, and lines that are none are refused', async () => {
  const own = await createList(t.ines, 'Private costs', false, [start])
  await expect(listCost(t.tam, own, [start])).rejects.toThrow('no such list')
  await expect(listCost(t.ines, list, [{ id: 'x', verb: 'fly' }])).rejects.toThrow()
})
