import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { newRule } from '@/core/screening/new-rule'
import { firstPolicy, RULES, type RuleName } from '@/core/screening/rules'
import { recordContact } from '@/usecases/contact/record-contact'
import { createList } from '@/usecases/lists/create-list'
import { closeRound } from '@/usecases/rounds/close-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { startRound } from '@/usecases/rounds/start-round'
import { letThrough, letThroughAll, MOST_LET_THROUGH } from '@/usecases/screening/let-through'
import { suppress } from '@/usecases/screening/suppress'
import { takeBackAll } from '@/usecases/screening/take-back-let-through'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let ids: Record<string, number>
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
let works: number
let lists = 0
const built = async () => startRound(t.ines, await createList(t.ines, `Through ${++lists}`, true, [start]))
/** What is ours to decide stands before what the person asked for: the first rule that closes something is then not the last word. */
const turned = () => {
  const [first, stop, ...rest] = firstPolicy()
  return [first, ...rest, stop]
}

beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'people.csv',
    'Id,Name,Email,Phone,Status\n' +
      'T1,Ada Customer,ada@through.example,0113 496 0001,customer\n' +
      'T2,Ben Customer,ben@through.example,,customer\n' +
      'T3,Cyd Both,cyd@through.example,0113 496 0003,customer\n' +
      'T4,Dee Clear,dee@through.example,0113 496 0004,prospect\n',
  )
  ids = Object.fromEntries((await t.app('person').select('id', 'name')).map(({ id, name }) => [name.split(' ')[0], id]))
  await suppress(t.tam, { person: ids.Cyd }, { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a letter' })
})

test('whoever can be is let through with one reason, the others are left and told why; undone, all is as it was', async () => {
  const round = await built()
  const before = await screenRound(t.ines, round, { tab: 'clear' })
  const done = await letThroughAll(t.ines, round, [ids.Ada, ids.Ben, ids.Cyd, ids.Dee, 900_000, ids.Ada], 'phone', 'they asked us to ring')
  expect(done.people).toEqual([ids.Ada])
  expect(done.left.map(({ why, count }) => `${count} ${why}`).sort()).toEqual([
    '1 Asked us to stop: nobody can let this through',
    '1 Nothing holds them back on this channel',
    '1 There is no such person in the directory',
    '1 There is no usable address or number to let through',
  ])
  const after = await screenRound(t.ines, round, { tab: 'through' })
  expect(after.page.people.map((p) => [p.name, p.through?.let.map((l) => l.reason)])).toEqual([['Ada Customer', ['they asked us to ring']]])
  expect(after.figures.clear.phone).toBe(before.figures.clear.phone + 1)
  expect(await takeBackAll(t.ines, round, done.people, 'phone')).toBe(1)
  expect((await screenRound(t.ines, round, { tab: 'clear' })).figures).toEqual(before.figures)
  expect(await takeBackAll(t.ines, round, done.people, 'phone')).toBe(0)
  const entries = await t.app('entry').where({ person_id: ids.Ada, round_id: round }).orderBy('id').select('kind')
  expect(entries.map((e) => e.kind)).toEqual(['let through', 'reversed'])
})

test('an opt-out is not let through by a policy in which another rule comes before it', async () => {
  const round = await built()
  await setRules(t.ines, round, turned())
  const held = await screenRound(t.ines, round, { tab: 'held' })
  const cyd = held.page.people.find((p) => p.name === 'Cyd Both')
  // They are counted under the rule that comes first, and what is offered says no.
  expect(cyd?.because?.title).toBe('Customers and our own people')
  expect(cyd?.through?.may).toEqual([])
  await expect(letThrough(t.ines, round, ids.Cyd, 'email', 'please')).rejects.toThrow('Asked us to stop: nobody can let this through.')
  await expect(
    t
      .app('let_through')
      .insert({ round_id: round, person_id: ids.Cyd, channel: 'email', reason: 'x', actor_id: t.ines.id, at: new Date() }),
  ).rejects.toThrow()
})

test('two at once, too many, nobody chosen, no reason, a round that is out', async () => {
  const round = await built()
  const [one, other] = await Promise.all([
    letThroughAll(t.ines, round, [ids.Ada, ids.Ben], 'email', 'first'),
    letThroughAll(t.marek, round, [ids.Ben, ids.Ada], 'email', 'second'),
  ])
  expect([...one.people, ...other.people].sort()).toEqual([ids.Ada, ids.Ben].sort())
  await expect(letThroughAll(t.ines, round, [], 'email', 'x')).rejects.toThrow(/Choose whom/)
  await expect(letThroughAll(t.ines, round, [ids.Ada], 'email', ' ')).rejects.toThrow(/Write the reason/)
  await expect(
    letThroughAll(
      t.ines,
      round,
      Array.from({ length: MOST_LET_THROUGH + 1 }, (_, i) => i + 1),
      'email',
      'x',
    ),
  ).rejects.toThrow(/At most 500/)
  await expect(letThroughAll(t.tam, round, [ids.Ada], 'email', 'x')).rejects.toThrow(/coordinators and managers/)
  await releaseRound(t.ines, round)
  await expect(letThroughAll(t.ines, round, [ids.Ada], 'phone', 'x')).rejects.toThrow(/frozen/)
  await expect(takeBackAll(t.ines, round, [ids.Ada], 'email')).rejects.toThrow(/frozen/)
  await closeRound(t.ines, round)
})

test('with a rule of every kind, what is released is what was screened, to the figure and the reason', async () => {
  for (let i = 0; i < 5; i++) await recordContact(t.tam, ids.Dee, { channel: 'phone', result: 'no answer', date: `2026-05-0${i + 1}` })
  const round = await built()
  const policy = firstPolicy().slice(0, 3)
  for (const kind of Object.keys(RULES) as RuleName[]) if (RULES[kind].optional) policy.push(newRule(kind, policy))
  await setRules(t.ines, round, policy)
  const live = await screenRound(t.ines, round, { tab: 'held' })
  const dee = live.page.people.find((p) => p.name === 'Dee Clear')
  expect(dee?.because).toEqual({
    title: 'Attempts without an answer',
    detail: '5 contacts without an answer, 1 May 2026 to 5 May 2026',
  })
  await letThroughAll(t.ines, round, [ids.Ada], 'email', 'to have somebody to release to')
  const shown = await screenRound(t.ines, round, { tab: 'held' })
  await releaseRound(t.ines, round)
  const frozen = await screenRound(t.ines, round, { tab: 'held' })
  expect(frozen.figures).toEqual(shown.figures)
  expect(frozen.page.people.map((p) => [p.name, p.because])).toEqual(shown.page.people.map((p) => [p.name, p.because]))
})

test('at most one of an organisation: who waits is told behind whom, is frozen so, and may be let through', async () => {
  works = await broughtIn(
    t.ines,
    'works.csv',
    `Id,Name,Organisation,Email\n${['Una', 'Vic', 'Wyn'].map((given, i) => `W${i},${given} Works,Weir Works,${given.toLowerCase()}@works.example`).join('\n')}\n`,
  )
  const list = await createList(t.ines, 'The works', true, [{ ...start, batch: { id: works, name: 'works.csv' } } as Line])
  const round = await startRound(t.ines, list)
  await setRules(t.ines, round, [...firstPolicy(), { ...newRule('per-organisation', []), most: 1 } as never])
  const held = await screenRound(t.ines, round, { tab: 'held' })
  expect(held.page.people.map((p) => [p.name, p.because?.title, p.because?.detail, p.reach.email])).toEqual(
    ['Vic Works', 'Wyn Works'].map((name) => [
      name,
      'At most so many of one organisation',
      '1 of their organisation comes before them: Una Works',
      'closed',
    ]),
  )
  expect(held.page.people[0].through?.may).toEqual(['email'])
  const [vic, wyn] = held.page.people.map((p) => p.id)
  await letThrough(t.ines, round, wyn, 'email', 'they run the other site')
  await releaseRound(t.ines, round)
  const frozen = await screenRound(t.ines, round, { tab: 'rule', rule: 'per-organisation', channel: 'email' })
  expect(frozen.page.people.map((p) => [p.id, p.because?.detail])).toEqual([[vic, '1 of their organisation comes before them: Una Works']])
  expect((await screenRound(t.ines, round, { tab: 'clear' })).page.people.map((p) => p.name)).toEqual(['Una Works', 'Wyn Works'])
  await closeRound(t.ines, round)
})

test('somebody changed while a round with a rule about a set is being released: it is released, or begun anew, never wrong', async () => {
  const list = await createList(t.ines, 'The works again', true, [{ ...start, batch: { id: works, name: 'works.csv' } } as Line])
  const round = await startRound(t.ines, list)
  await setRules(t.ines, round, [...firstPolicy(), { ...newRule('per-organisation', []), most: 1 } as never])
  const una = await t.app('person').where({ name: 'Una Works' }).first('id')
  const vic = await t.app('person').where({ name: 'Vic Works' }).first('id')
  // The one who stays asks to be left alone, and one who waits is changed, both in the middle of the release.
  const said = await releasedBeside(round, async () => {
    await suppress(t.tam, { person: una.id }, { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a call' })
    await recordContact(t.tam, vic.id, { channel: 'met', result: 'spoke' })
  })
  expect(said.status).toBe('fulfilled')
  const clear = await screenRound(t.ines, round, { tab: 'clear' })
  expect(clear.page.people.map((p) => p.name)).toEqual(['Vic Works'])
})

/** Releases a round that is held up after everybody is frozen; `meanwhile` must come to its end by itself. */
async function releasedBeside(round: number, meanwhile: () => Promise<unknown>): Promise<PromiseSettledResult<void>> {
  const barrier = await t.owner.transaction()
  await barrier.raw('lock table round_file in share row exclusive mode')
  const releasing = Promise.allSettled([releaseRound(t.ines, round)])
  for (let i = 0; i < 200; i++) {
    const { rows } = await t.owner.raw(
      `select 1 from pg_locks where relation = 'round_file'::regclass and not granted and database = (select oid from pg_database where datname = current_database())`,
    )
    if (rows.length > 0) break
    await new Promise((resolve) => setTimeout(resolve, 25))
  }
  await meanwhile()
  await barrier.commit()
  return (await releasing)[0]
}
