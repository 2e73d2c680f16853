import { describe, expect, test } from 'vitest'
import { newRule } from '@/core/screening/new-rule'
import { firstPolicy, type Rule } from '@/core/screening/rules'
import { recordContact } from '@/usecases/contact/record-contact'
import { mergePeople } from '@/usecases/directory/merge-people'
import { createList } from '@/usecases/lists/create-list'
import { closeRound } from '@/usecases/rounds/close-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { startRound } from '@/usecases/rounds/start-round'
import { letThrough } from '@/usecases/screening/let-through'
import { broughtIn } from '../../support/database'
import { givenRounds, mailed, releasedWhile, start, stateOf, t } from '../rounds/released-while'

givenRounds()

const HEAD = 'Id,Name,Organisation,Email,Address,Town,Postcode,Status\n'
let made = 0
/** People of a batch of their own, by their given names, and a round of a list of those who are not `beside` it. */
async function built(rows: string[], beside: string[] = []) {
  const k = ++made
  const batch = await broughtIn(t.ines, `together-${k}.csv`, HEAD + rows.join('\n'))
  const other = beside.length === 0 ? 0 : await broughtIn(t.ines, `beside-${k}.csv`, HEAD + beside.join('\n'))
  const people = await t.app('person').whereIn('batch_id', [batch, other]).select('id', 'given')
  const list = await createList(t.ines, `Together ${k}`, true, [{ ...start, batch: { id: batch, name: 'together' } } as never])
  const id = Object.fromEntries(people.map((p) => [p.given, p.id])) as Record<string, number>
  return { round: await startRound(t.ines, list), id }
}
const withRule = async (round: number, of: Partial<Rule> & { kind: Rule['kind'] }) =>
  setRules(t.ines, round, [...firstPolicy(), { ...newRule(of.kind, firstPolicy()), ...of } as Rule])
const held = async (round: number) =>
  (await screenRound(t.ines, round, { tab: 'held' })).page.people.map((p) => [p.name, p.because?.detail])

describe('a contact that counts for the organisation', () => {
  const work = { kind: 'contacted-within', days: 20, counted: 'organisation' } as const
  test('holds back everybody there, on the list or not, and says whose it was', async () => {
    const { round, id } = await built(
      [
        'A1,Ann Together,Works one,ann@together.example,,,,',
        'A2,Bea Together,Works one,bea@together.example,,,,',
        'A3,Cat Together,Works two,cat@together.example,,,,',
      ],
      ['A4,Dan Beside,Works one,dan@together.example,,,,'],
    )
    await withRule(round, work)
    expect(await held(round)).toEqual([])
    await recordContact(t.tam, id.Dan, { channel: 'phone', result: 'spoke', date: '2026-06-10' })
    expect(await held(round)).toEqual([
      ['Ann Together', `Phone to Dan Beside on 10 Jun 2026 by ${t.tam.name}`],
      ['Bea Together', `Phone to Dan Beside on 10 Jun 2026 by ${t.tam.name}`],
    ])
    await letThrough(t.ines, round, id.Bea, 'email', 'another building')
    // Everybody is screened again from the database, which finds Dan’s contact as well.
    const said = await releasedWhile(round, async () => {})
    expect(said.status).toBe('fulfilled')
    expect((await mailed(round)).sort()).toEqual(['bea@together.example', 'cat@together.example'])
    await closeRound(t.ines, round)
  })
  test('of somebody who was merged into one of them', async () => {
    const { round, id } = await built(
      ['B1,Eli Together,Works three,eli@together.example,,,,'],
      ['B2,Fin Beside,Works three,fin@together.example,,,,', 'B3,Finn Beside,,finn@together.example,,,,'],
    )
    await withRule(round, work)
    await recordContact(t.tam, id.Finn, { channel: 'email', result: 'sent', date: '2026-06-12' })
    expect(await held(round)).toEqual([])
    await mergePeople(t.ines, id.Fin, id.Finn)
    expect(await held(round)).toEqual([['Eli Together', `Email to Fin Beside on 12 Jun 2026 by ${t.tam.name}`]])
  })
  test('that is made while the round is being released is heeded', async () => {
    const { round, id } = await built(
      ['C1,Gus Together,Works four,gus@together.example,,,,', 'C2,Hal Together,Works five,hal@together.example,,,,'],
      ['C3,Ivo Beside,Works four,ivo@together.example,,,,'],
    )
    await withRule(round, work)
    const said = await releasedWhile(round, () => recordContact(t.tam, id.Ivo, { channel: 'phone', result: 'spoke', date: '2026-06-14' }))
    expect([said.status, await stateOf(round)]).toEqual(['fulfilled', 'released'])
    expect(await mailed(round)).toEqual(['hal@together.example'])
    await closeRound(t.ines, round)
  })
})

test('a household is those without an organisation at one address: one letter a house, and a call to one rests the others', async () => {
  const house = '9 Weir Street,Thornmouth,PW1 4AA,'
  const { round, id } = await built([
    `D1,Jo Together,,jo@together.example,${house}`,
    `D2,Kit Together,,kit@together.example,"9 WEIR ST",Thornmouth,PW1 4AA,`,
    `D3,Lou Together,Works six,lou@together.example,${house}`,
  ])
  await withRule(round, { kind: 'same-address' })
  const post = await screenRound(t.ines, round, { tab: 'rule', rule: 'same-address', channel: 'post' })
  expect(post.page.people.map((p) => [p.name, p.because?.detail])).toEqual([
    ['Kit Together', 'Jo Together is contacted at the same postal address'],
  ])
  expect(post.figures.clear).toMatchObject({ post: 2, email: 3 })
  await withRule(round, { kind: 'contacted-within', days: 9, counted: 'household' })
  await recordContact(t.tam, id.Kit, { channel: 'phone', result: 'spoke', date: '2026-06-11' })
  expect((await held(round)).map(([name]) => name)).toEqual(['Jo Together', 'Kit Together'])
  const said = await releasedWhile(round, async () => {})
  expect(said.status).toBe('fulfilled')
  expect(await mailed(round)).toEqual(['lou@together.example'])
  await closeRound(t.ines, round)
})

test('at most one of an organisation in so many days: whoever is contacted during the release counts, and it is begun anew', async () => {
  const { round, id } = await built(
    ['E1,Mia Together,Works seven,mia@together.example,,,,', 'E2,Noa Together,Works eight,noa@together.example,,,,'],
    ['E3,Oz Beside,Works seven,oz@together.example,,,,'],
  )
  await withRule(round, { kind: 'per-organisation', most: 1, days: 30 })
  expect(await held(round)).toEqual([])
  const said = await releasedWhile(round, () => recordContact(t.tam, id.Oz, { channel: 'phone', result: 'spoke', date: '2026-06-14' }))
  expect(said.status).toBe('fulfilled')
  expect(await mailed(round)).toEqual(['noa@together.example'])
  const waits = await screenRound(t.ines, round, { tab: 'rule', rule: 'per-organisation' })
  expect(waits.page.people.map((p) => [p.name, p.because?.detail])).toEqual([
    ['Mia Together', '1 of their organisation comes before them: Oz Beside'],
  ])
})
