import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { newRule } from '@/core/screening/new-rule'
import { firstPolicy, type Rule } from '@/core/screening/rules'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { shareList } from '@/usecases/lists/share-list'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { closeRound } from '@/usecases/rounds/close-round'
import { requalifyList } from '@/usecases/rounds/requalify-list'
import { screenRound } from '@/usecases/rounds/screen-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { startRound } from '@/usecases/rounds/start-round'
import { takePolicy } from '@/usecases/rounds/take-policy'
import { archivePolicy } from '@/usecases/screening/archive-policy'
import { choosePolicy } from '@/usecases/screening/choose-policy'
import { createPolicy } from '@/usecases/screening/create-policy'
import { makeDefaultPolicy } from '@/usecases/screening/make-default-policy'
import { openPolicy } from '@/usecases/screening/open-policy'
import { policyIndex } from '@/usecases/screening/policy-index'
import { renamePolicy } from '@/usecases/screening/rename-policy'
import { savePolicy } from '@/usecases/screening/save-policy'
import { tryPolicy } from '@/usecases/screening/try-policy'
import { recordContact } from '@/usecases/contact/record-contact'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const days = (n: number) => firstPolicy().map((rule): Rule => (rule.kind === 'contacted-within' ? { ...rule, days: n } : rule))
const teams = async () => (await policyIndex(t.ines)).find((policy) => policy.isDefault)?.id as number
let lists = 0
const listOf = () => createList(t.ines, `Screened ${++lists}`, true, [start])

beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'people.csv',
    'Id,Name,Organisation,Email,Phone,Status\n' +
      'Y1,Ada Lately,North School,ada@policy.example,0113 496 0001,prospect\n' +
      'Y2,Ben Customer,North School,ben@policy.example,0113 496 0002,customer\n' +
      'Y3,Cyd Clear,South Clinic,cyd@policy.example,0113 496 0003,prospect\n',
  )
  const ada = await t.app('person').where({ name: 'Ada Lately' }).first('id')
  await recordContact(t.tam, ada.id, { channel: 'email', result: 'sent', date: '2026-06-01' })
})

describe('a policy', () => {
  test('comes with the application, is the team’s, and is kept in editions with who, when and why', async () => {
    const id = await teams()
    expect(await savePolicy(t.ines, id, 1, days(21), 'spring is short')).toBe(2)
    const page = await openPolicy(t.tam, id)
    expect(page.editions.map(({ number, by, why }) => [number, by, why])).toEqual([
      [2, 'Ines Okafor', 'spring is short'],
      [1, null, null],
    ])
    expect(page.editions[1].rules).toEqual(firstPolicy())
    expect(page).toMatchObject({ isDefault: true, mayEdit: false })
    expect(await savePolicy(t.ines, id, 2, firstPolicy(), '')).toBe(3)
  })

  test('two people at once: the second is told whose edition came first, and nothing of theirs is written', async () => {
    const id = await createPolicy(t.ines, 'At once', await teams())
    const [one, other] = await Promise.allSettled([savePolicy(t.ines, id, 1, days(10), ''), savePolicy(t.marek, id, 1, days(11), '')])
    const [refused] = [one, other].filter((s) => s.status === 'rejected') as PromiseRejectedResult[]
    expect([one, other].filter((s) => s.status === 'fulfilled')).toHaveLength(1)
    expect(refused.reason.message).toMatch(/saved edition 2 of this policy meanwhile. Nothing was saved/)
    expect((await openPolicy(t.ines, id)).editions).toHaveLength(2)
  })

  test('without what the law asks for is refused, and so is one that changes nothing, or by whom may not', async () => {
    const id = await teams()
    const { number } = (await openPolicy(t.ines, id)).editions[0]
    await expect(
      savePolicy(
        t.ines,
        id,
        number,
        firstPolicy().filter((r) => r.kind !== 'register'),
        '',
      ),
    ).rejects.toThrow(/not saved. Do-not-call register: cannot be left out/)
    await expect(savePolicy(t.ines, id, number, firstPolicy(), '')).rejects.toThrow(/Nothing was changed/)
    await expect(savePolicy(t.tam, id, number, days(1), '')).rejects.toThrow(/coordinator/i)
    await expect(savePolicy(t.ines, 900_000, 1, days(1), '')).rejects.toThrow(/no such policy/)
    expect((await openPolicy(t.ines, id)).editions[0].number).toBe(number)
  })

  test('has a name of its own, is archived only when nothing goes by it, and comes back', async () => {
    const id = await createPolicy(t.ines, 'Letters only', await teams())
    await expect(createPolicy(t.ines, 'letters ONLY', await teams())).rejects.toThrow(/called “letters ONLY” already/)
    await expect(createPolicy(t.ines, '  ', await teams())).rejects.toThrow(/1 to 120/)
    const list = await listOf()
    await choosePolicy(t.ines, list, id)
    expect((await openPolicy(t.ines, id)).lists).toEqual([{ id: list, name: `Screened ${lists}` }])
    await expect(archivePolicy(t.ines, id, true)).rejects.toThrow(/1 list goes by this policy/)
    await choosePolicy(t.ines, list, null)
    await archivePolicy(t.ines, id, true)
    expect((await policyIndex(t.ines)).map((p) => p.id)).not.toContain(id)
    await expect(choosePolicy(t.ines, list, id)).rejects.toThrow(/archived/)
    await expect(savePolicy(t.ines, id, 1, days(3), '')).rejects.toThrow(/archived/)
    await expect(makeDefaultPolicy(t.ines, id)).rejects.toThrow(/archived/)
    const taken = await createPolicy(t.ines, 'Letters only', await teams())
    await expect(archivePolicy(t.ines, id, false)).rejects.toThrow(/Rename that one first/)
    await renamePolicy(t.ines, taken, 'Letters and more')
    await archivePolicy(t.ines, id, false)
    expect((await openPolicy(t.ines, id)).archived).toBe(false)
    await expect(archivePolicy(t.ines, await teams(), true)).rejects.toThrow(/the team’s policy/)
  })

  test('two made the team’s at once: one of them is', async () => {
    const before = await teams()
    const [a, b] = [await createPolicy(t.ines, 'First of two', before), await createPolicy(t.ines, 'Second of two', before)]
    await Promise.all([makeDefaultPolicy(t.ines, a), makeDefaultPolicy(t.marek, b)])
    expect((await policyIndex(t.ines)).filter((p) => p.isDefault)).toHaveLength(1)
    await makeDefaultPolicy(t.ines, before)
  })

  test('an edition is never changed or deleted by the application', async () => {
    await expect(t.app('policy_edition').update({ why: 'x' })).rejects.toThrow(/permission denied/)
    await expect(t.app('policy_edition').delete()).rejects.toThrow(/permission denied/)
    await expect(t.app('round_rule_change').update({ why: 'x' })).rejects.toThrow(/permission denied/)
  })
})

describe('a round', () => {
  test('begins with the newest edition of its list’s policy, and keeps it when another is saved', async () => {
    const id = await createPolicy(t.ines, 'For a round', await teams())
    const list = await listOf()
    await choosePolicy(t.ines, list, id)
    await savePolicy(t.ines, id, 1, days(5), '')
    const round = await startRound(t.ines, list)
    expect((await openRound(t.ines, round)).policy).toEqual({ id, name: 'For a round', edition: 2, newest: null })
    await savePolicy(t.ines, id, 2, days(6), '')
    const page = await openRound(t.ines, round)
    expect(page.rules.find(({ rule }) => rule.kind === 'contacted-within')?.rule).toMatchObject({ days: 5 })
    expect(page.policy?.newest).toEqual({ policy: 'For a round', edition: 3 })
    await takePolicy(t.ines, round)
    expect((await openRound(t.ines, round)).rules.find(({ rule }) => rule.kind === 'contacted-within')?.rule).toMatchObject({ days: 6 })
    expect((await openRound(t.ines, round)).policy).toMatchObject({ edition: 3, newest: null })
  })

  test('tells what was changed for it alone, by whom and why; the policy stays', async () => {
    const list = await listOf()
    const round = await startRound(t.ines, list)
    expect((await openRound(t.ines, round)).ruleChanges).toBeNull()
    await setRules(t.marek, round, days(3), 'a short campaign')
    expect((await openRound(t.ines, round)).ruleChanges).toMatchObject({
      said: ['Contacted in the last 30 days: now contacted in the last 3 days'],
      by: 'Marek Dunn',
      why: 'a short campaign',
    })
    expect((await openPolicy(t.ines, await teams())).editions[0].rules).toEqual(firstPolicy())
    // Sent again as it is, nothing is written.
    const changes = async () => Number((await t.app('round_rule_change').where({ round_id: round }).count('* as n').first())?.n)
    const before = await changes()
    await setRules(t.marek, round, days(3))
    expect(await changes()).toBe(before)
    await setRules(t.ines, round, firstPolicy())
    expect((await openRound(t.ines, round)).ruleChanges).toBeNull()
  })

  test('holds by several rules of one kind, each known by its id, live and once it is frozen', async () => {
    const list = await listOf()
    const round = await startRound(t.ines, list)
    const second: Rule = {
      ...(newRule('contacted-within', firstPolicy()) as Extract<Rule, { kind: 'contacted-within' }>),
      days: 60,
      channels: ['email'],
    }
    await setRules(t.ines, round, [...days(3), second])
    const live = await screenRound(t.ines, round, { tab: 'rule', rule: 'contacted-within-2', channel: 'email' })
    expect(live.page.people.map((p) => [p.name, p.because?.title])).toEqual([['Ada Lately', 'Contacted in the last 60 days']])
    expect(live.figures.ways.map(({ channels, count }) => [channels.join(' '), count])).toEqual([
      ['phone', 1],
      ['email phone', 1],
    ])
    await releaseRound(t.ines, round)
    const frozen = await screenRound(t.ines, round, { tab: 'rule', rule: 'contacted-within-2', channel: 'email' })
    expect(frozen.page.people.map((p) => [p.name, p.because?.title])).toEqual([['Ada Lately', 'Contacted in the last 60 days']])
    expect(frozen.figures).toEqual(live.figures)
    const both = await screenRound(t.ines, round, { tab: 'ways', channels: ['email', 'phone'] })
    expect(both.page.people.map((p) => p.name)).toEqual(['Cyd Clear'])
    await expect(setRules(t.ines, round, firstPolicy())).rejects.toThrow(/frozen/)
    await expect(takePolicy(t.ines, round)).rejects.toThrow(/frozen/)
    // What held somebody back then is told by the name it had, though no rule of today has its id.
    await broughtIn(t.ines, 'status.csv', 'Id,Name,Status\nY2,Ben Customer,prospect\n')
    const now = await requalifyList(t.ines, list, { account: 'clear', tab: 'joined' })
    expect(now.causes.clear).toContain('No longer held back: Customers and our own people')
    await closeRound(t.ines, round)
  })

  test('by other rules: who would be held back and who would be clear is told before they are saved', async () => {
    const list = await listOf()
    const asked = { list, before: days(3), after: days(30), offset: 0 }
    const held = await tryPolicy(t.tam, { ...asked, tab: 'held' })
    expect(held).toMatchObject({ clear: { before: 3, after: 2 }, held: 1, freed: 0 })
    expect(held.page.people.map((p) => [p.name, p.because?.title])).toEqual([['Ada Lately', 'Contacted recently']])
    const freed = await tryPolicy(t.tam, { ...asked, before: days(30), after: days(3), tab: 'freed' })
    expect(freed.page.people.map((p) => [p.name, p.because?.detail])).toEqual([['Ada Lately', 'Email on 1 Jun 2026 by Tam Reyes']])
    await expect(tryPolicy(t.tam, { ...asked, after: [], tab: 'held' })).rejects.toThrow(/cannot be left out/)
    const own = await createList(t.ines, 'Not shown', false, [start])
    await expect(tryPolicy(t.tam, { ...asked, list: own, tab: 'held' })).rejects.toThrow(/no such list/)
  })

  test('a policy is for lists of people, and its count is of those alone', async () => {
    const count = async () => (await policyIndex(t.ines)).find((policy) => policy.isDefault)?.lists
    const before = await count()
    const places = await createList(t.ines, 'Places', true, [{ ...start, subject: 'premises' } as Line])
    expect(await count()).toBe(before)
    await expect(choosePolicy(t.ines, places, await teams())).rejects.toThrow(/only a list of people/)
  })

  test('choosing a policy is for who may edit the list', async () => {
    const list = await listOf()
    await shareList(t.ines, list, { team: 'use', members: [] })
    await expect(choosePolicy(t.marek, list, null)).rejects.toThrow(/not edit it/)
    await saveEdition(t.ines, list, 1, [
      start,
      { id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'tag', any: ['x'] } },
    ])
  })
})

test('a round is the same round however the settings of its rules are ordered', async () => {
  const round = await startRound(t.ines, await listOf())
  const turned = days(12).map((rule) => Object.fromEntries(Object.entries(rule).reverse()) as unknown as Rule)
  const shown = await screenRound(t.ines, round, { tab: 'clear' }, 0, turned)
  await setRules(t.ines, round, turned)
  const kept = await screenRound(t.ines, round, { tab: 'clear' })
  expect(kept.basis).toBe(shown.basis)
  // What was seen before it was kept may be released.
  await releaseRound(t.ines, round, { basis: shown.basis as string, clear: shown.figures.clear })
  expect((await openRound(t.ines, round)).state).toBe('released')
})
