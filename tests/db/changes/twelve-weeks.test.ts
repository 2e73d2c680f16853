import { beforeAll, expect, test } from 'vitest'
import type { FeedItem } from '@/core/changes/feed'
import type { Line } from '@/core/lists/line'
import { ReadModel } from '@/engine/read-model'
import { pinClock } from '@/runtime/clock'
import { actOnChange, putOffChange } from '@/usecases/changes/act-on-change'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { changesPage, lookedAtChanges } from '@/usecases/changes/changes-page'
import { decideChange } from '@/usecases/changes/decide-change'
import { movementPage } from '@/usecases/changes/movement'
import { readFeed } from '@/usecases/changes/run-feed'
import { recordContact } from '@/usecases/contact/record-contact'
import { erasePerson } from '@/usecases/directory/erase-person'
import { mergePeople } from '@/usecases/directory/merge-people'
import { batchAccount } from '@/usecases/intake/batch-account'
import { runUndo } from '@/usecases/intake/run-undo'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { createList } from '@/usecases/lists/create-list'
import { listAccountFor } from '@/usecases/lists/list-account'
import { closeRound } from '@/usecases/rounds/close-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { requalifyList } from '@/usecases/rounds/requalify-list'
import { screenRound } from '@/usecases/rounds/screen-round'
import { startRound } from '@/usecases/rounds/start-round'
import type { Actor } from '@/usecases/team/actor'
import { Random } from '@/core/checks/random'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { said, saidOfOthers, startEngine } from '../../support/engine'

const ROLES = ['Head of Estates', 'Estates Manager', 'Site Manager', 'Bursar', 'Caretaker', 'Trainee Estates Officer']
const PLACES = ['Larch House', 'Sedge Brewery', 'Saltrey Fen School', 'Wendle Clinic', 'Fen Nurseries']
const PEOPLE = 60
const ALL = { tab: 'all' as const, list: null, freshness: null, offset: 0 }
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const keep = (id: string, criterion: object): Line => ({ id, verb: 'keep', off: false, unknownAsYes: false, criterion }) as Line

let t: TestDatabase
let engine: Awaited<ReturnType<typeof startEngine>>
const random = new Random(12)
const world = Array.from({ length: PEOPLE }, (_, i) => ({
  name: `${['Anna', 'Bert', 'Cara', 'Dan', 'Edda', 'Finn'][i % 6]} ${['Reed', 'Moss', 'Weir', 'Holt', 'Fenn', 'Croft', 'Sallow', 'Adder', 'Brook', 'Dell'][Math.floor(i / 6)]}`,
  email: `person${i}@mail.example`,
  role: ROLES[i % ROLES.length],
  place: PLACES[i % PLACES.length],
}))
const csv = (people: readonly (typeof world)[number][]) =>
  Buffer.from(`Name,Role,Organisation,E-mail\n${people.map((p) => `${p.name},${p.role},${p.place},${p.email}`).join('\n')}\n`)
const day = (week: number, of = 0) => new Date(Date.parse('2026-03-02T09:00:00Z') + (week * 7 + of) * 86_400_000)
const dayText = (at: Date) => at.toISOString().slice(0, 10)

beforeAll(async () => {
  t = await freshDatabase(day(0).toISOString())
  engine = await startEngine(t)
  await broughtIn(t.ines, 'directory.csv', csv(world))
  await createList(t.ines, 'Everybody', true, [start])
  await createList(t.ines, 'Estates', true, [start, keep('k', { kind: 'role', any: ['estates'] })])
  await createList(t.tam, 'Own news', false, [
    start,
    keep('c', { kind: 'changed', asks: [], kinds: [], days: 30, by: 'learned', least: 1, state: 'any' }),
  ])
  await bringChanges()
  for (const actor of [t.ines, t.tam, t.marek]) await lookedAtChanges(actor)
})

/** The account of somebody's changes closes, and opens with what the one before closed with. */
async function reconciled(actor: Actor, opening: number): Promise<number> {
  const { account, total, asks, freshness } = await changesPage(actor, ALL)
  const sum = (of: { n: number }[]) => of.reduce((n, line) => n + line.n, 0)
  expect(account.opening).toBe(opening)
  expect(account.opening + sum(account.came) - sum(account.went)).toBe(account.closing)
  expect(account.closing).toBe(total)
  expect(Object.values(asks).reduce((a, b) => a + b, 0)).toBe(total)
  expect(Object.values(freshness).reduce((a, b) => a + b, 0)).toBe(total)
  return account.closing
}

async function listsReconcile(): Promise<void> {
  for (const { lines } of await t.app('edition').orderBy('id').select('lines')) {
    const of = async (tab: 'on' | 'out' | 'unknown' | 'never') => (await listAccountFor(t.tam, { lines, view: { tab } as never })).figures
    const { lines: told } = await of('on')
    let balance = 0
    for (const line of told) {
      balance += (line.in ?? 0) - (line.out ?? 0) - (line.unknown ?? 0)
      expect(line.balance).toBe(balance)
    }
  }
}

/** What was told is what the lists hold: everybody on a list now whose change was just read is told of to it. */
async function toldRight(): Promise<void> {
  const { rows } = await t.owner.raw(
    `select count(*)::int as n from change c join person p on p.id = c.person_id and p.state = 'live'
     where c.gone_at is null and not exists (select 1 from told x join list l on l.id = x.list_id where x.change_id = c.id and l.name = 'Everybody')`,
  )
  expect(rows[0].n).toBe(0)
}

/** Reading everything anew changes nothing. */
async function readAnew(): Promise<void> {
  const before = await t.owner('change').orderBy('id')
  await t.owner.raw('insert into change_due (person_id) select id from person')
  await t.owner.raw('insert into change_due (organisation_id) select id from organisation')
  await bringChanges()
  expect(await t.owner('change').orderBy('id')).toEqual(before)
}

test('twelve weeks of the county: each week every account reconciles', async () => {
  const closing = new Map<string, number>([t.ines, t.tam, t.marek].map((actor) => [actor.id, 0]))
  const late: FeedItem[] = []
  const items: FeedItem[] = []
  let round = 0
  for (let week = 1; week <= 12; week++) {
    // What happens: people rise, move and leave; the feed tells of some of it, late, twice, or not at all.
    pinClock(day(week))
    for (let i = 0; i < 8; i++) {
      const p = random.pick(world)
      const about = { person: p.name, organisation: p.place, email: p.email }
      const plain = {
        id: `${week}-${i}`,
        about,
        happening: null,
        before: null,
        text: null,
        link: null,
        day: dayText(day(week, -random.below(5))),
        stated: random.chance(0.5),
      }
      const turn = random.next()
      if (turn < 0.6) {
        p.role = random.pick(ROLES)
        ;(random.chance(0.3) ? late : items).push({ ...plain, field: 'role', after: p.role })
      } else if (turn < 0.84) {
        p.place = random.pick(PLACES)
        items.push({ ...plain, field: 'organisation', after: p.place })
      } else
        items.push({ ...plain, field: null, happening: random.pick(['wrote', 'permit', 'storm']), after: null, text: `news ${week} ${i}` })
    }
    // Of one the feed never hears, and only the file tells.
    const silent = world[week + 20]
    silent.role = silent.role === 'Bursar' ? 'Caretaker' : 'Bursar'
    if (week % 2 === 0) items.push(...late.splice(0), ...items.slice(-2))
    await readFeed({
      name: 'county',
      read: async (cursor) => ({ items: items.slice(Number(cursor ?? 0)), next: String(items.length), more: false }),
    })
    pinClock(day(week, 1))
    const file = await broughtIn(t.ines, `week-${week}.csv`, csv(world.filter((p) => p === silent || random.chance(0.5))))
    const { counts } = await batchAccount(t.ines, file)
    expect(Object.values(counts as Record<string, number>).reduce((a, b) => a + b, 0)).toBe(
      (await t.app('batch_row').where({ batch_id: file }).count('* as n').first())?.n,
    )
    const live = await t.app('person').where({ state: 'live' }).orderBy('id').pluck('id')
    for (let i = 0; i < 6; i++)
      await recordContact(t.tam, random.pick(live), { channel: 'email', result: random.pick(['sent', 'replied', 'bounced', 'opened']) })
    if (week === 5) {
      await bringChanges()
      await undoBatch(t.ines, file)
      await runUndo(file)
    }
    if (week === 7) await mergePeople(t.ines, live[0], live[1])
    if (week === 9) {
      const [{ person_id }] = await t
        .app('change')
        .whereNotNull('person_id')
        .whereNull('gone_at')
        .groupBy('person_id')
        .orderByRaw('count(*) desc, 1')
        .limit(1)
        .select('person_id')
      await erasePerson(t.marek, person_id)
    }
    await bringChanges()
    await toldRight()

    // The team works: some changes are taken, handled, confirmed, put off or set aside.
    for (const actor of [t.ines, t.tam, t.marek]) {
      closing.set(actor.id, await reconciled(actor, closing.get(actor.id) as number))
      await lookedAtChanges(actor)
      pinClock(day(week, 2))
      for (const row of (await changesPage(actor, ALL)).rows) {
        const turn = random.below(10)
        const act =
          turn < 3
            ? actOnChange(actor, row.id, 'handle')
            : turn < 4
              ? actOnChange(actor, row.id, 'set aside')
              : turn < 5
                ? actOnChange(actor, row.id, 'take')
                : turn < 6
                  ? putOffChange(actor, row.id, dayText(day(week, 3 + random.below(12))))
                  : turn < 7 && row.decide !== null
                    ? decideChange(actor, row.id, 'confirm')
                    : null
        // Somebody else may have it; that is told and changes nothing.
        await act?.catch((error: Error) => expect(error.message).toMatch(/taken|settled|handled|set this aside|no longer/))
      }
      await bringChanges()
      await reconciled(actor, closing.get(actor.id) as number)
    }

    // What the account opens with next is what is unhandled at the look.
    for (const actor of [t.ines, t.tam, t.marek]) {
      await lookedAtChanges(actor)
      closing.set(actor.id, (await changesPage(actor, ALL)).account.closing)
    }
    await listsReconcile()
    const moved = await movementPage(t.ines, { organisation: null, list: null }, 30)
    for (const own of moved.levels) expect(own.opening + own.arrived + own.known + own.from - own.to - own.left).toBe(own.closing)
    if (week % 4 === 0) {
      const list = (await t.app('list').where({ name: 'Everybody' }).first('id')).id
      if (round !== 0) {
        const { listed, clear } = await requalifyList(t.ines, list, { account: 'listed', tab: 'left' })
        for (const own of [listed, clear]) expect(own.opening - own.left + own.joined).toBe(own.closing)
        await closeRound(t.ines, round)
      }
      round = await startRound(t.ines, list)
      const { figures } = await screenRound(t.ines, round, { tab: 'held' })
      expect(figures.opening).toBeGreaterThan(0)
      await releaseRound(t.ines, round)
    }
    await readAnew()
  }
  // The story had something of everything.
  expect((await t.app('change').distinct('state').orderBy('state').pluck('state')).sort()).toEqual([
    'handled',
    'open',
    'set aside',
    'taken',
  ])
  const gone = await t.app('change').whereNotNull('gone_why').distinct('gone_why').pluck('gone_why')
  expect(gone).toContain('erased')
  expect(gone).toContain('undone')
  expect(Number((await t.app('change').count('* as n').first())?.n)).toBeGreaterThan(100)
  expect(await t.app('change_mine').whereNotNull('put_off_until')).not.toEqual([])
  expect(await t.app('change_decision')).not.toEqual([])
  // The engine, which followed all of it, holds what one that reads it fresh holds.
  await engine.model.catchUp()
  const fresh = new ReadModel(t.app)
  await fresh.catchUp()
  expect(said(engine.model)).toEqual(said(fresh))
  expect(saidOfOthers(engine.model)).toEqual(saidOfOthers(fresh))
})
