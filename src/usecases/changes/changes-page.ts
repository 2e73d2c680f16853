import { changesAccount } from '@/core/changes/account'
import { ASKS, type Asks } from '@/core/changes/asks'
import { FRESHNESS, freshnessOf, type Freshness } from '@/core/changes/freshness'
import { openerText, provedWhen } from '@/core/changes/opener'
import { localDate } from '@/core/calendar/local-day'
import { CHANNEL_NAME, type Way } from '@/core/records/channels'
import type { Subject } from '@/core/records/subject'
import type { FieldWords } from '@/core/text/field-words'
import type { ChangeRow, ChangesPage, ChangesView } from '@/core/views/change-views'
import {
  changesFor,
  followingOf,
  followSeenLists,
  keepLook,
  listNames,
  lookOf,
  type ShownRow,
  shownChanges,
  type StandingRow,
  stillReading,
} from '@/db/changes/changes-for'
import { db, type Knex } from '@/db/connection'
import { packIds, unpackIds } from '@/engine/packed-ids'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { fieldWords } from '@/usecases/directory/custom-fields'
import type { Actor } from '@/usecases/team/actor'

/** How far back a list that somebody begins to follow reaches where they did not say otherwise. */
export const REACH_DAYS = 30
const PAGE = 60

interface Stood {
  row: StandingRow
  now: boolean
  then: boolean
  freshness: Freshness
}

/** Somebody's changes: the account since they last looked, and those that are unhandled now, the most useful first. */
export async function changesPage(actor: Actor, view: ChangesView, most = PAGE): Promise<ChangesPage> {
  const { all, looked, today } = await stand(db(), actor)
  const unhandled = all.filter((own) => own.now)
  const count = <K extends string>(keys: readonly K[], of: (own: Stood) => K) =>
    Object.fromEntries(keys.map((key) => [key, unhandled.filter((own) => of(own) === key).length])) as Record<K, number>
  const perList = new Map<number, number>()
  for (const { row } of unhandled) for (const list of row.lists ?? []) perList.set(list, (perList.get(list) ?? 0) + 1)
  const names = await listNames(db(), [...perList.keys()])
  const shown = unhandled
    .filter(({ row }) => view.tab === 'all' || row.asks === view.tab)
    .filter(({ row }) => view.list === null || (row.lists ?? []).includes(view.list))
    .filter(({ freshness }) => view.freshness === null || freshness === view.freshness)
    .sort(mostUseful)
  const page = shown.slice(view.offset, view.offset + most)
  return {
    today,
    lookedAt: looked?.toISOString() ?? null,
    account: changesAccount(all.map(({ row, now, then }) => ({ ...row, now, then }))),
    asks: count(ASKS, ({ row }) => row.asks),
    freshness: count(FRESHNESS, (own) => own.freshness),
    lists: [...perList].map(([id, n]) => ({ id, name: names.get(id) ?? '', n })).sort((a, b) => b.n - a.n || (a.name < b.name ? -1 : 1)),
    total: shown.length,
    rows: await changeRows(
      db(),
      actor,
      page.map(({ row }) => row.id),
      today,
    ),
    following: await followingOf(db(), actor.id),
    reading: await stillReading(db()),
  }
}

/** How many changes are unhandled for somebody, by what they ask. */
export async function unhandledByAsks(actor: Actor): Promise<Record<Asks, number>> {
  const unhandled = (await stand(db(), actor)).all.filter((own) => own.now)
  return Object.fromEntries(ASKS.map((asks) => [asks, unhandled.filter(({ row }) => row.asks === asks).length])) as Record<Asks, number>
}

/** The same of one list: what the changes of its people ask of whoever looks. */
export async function changesOfList(actor: Actor, list: number): Promise<{ asks: Asks; n: number }[]> {
  const here = (await stand(db(), actor)).all.filter((own) => own.now && (own.row.lists ?? []).includes(list))
  return ASKS.map((asks) => ({ asks, n: here.filter(({ row }) => row.asks === asks).length })).filter(({ n }) => n > 0)
}

/** Closes somebody’s account of changes and opens the next one with what is unhandled now. */
export async function lookedAtChanges(actor: Actor): Promise<void> {
  await db().transaction(async (trx) => {
    const { all } = await stand(trx, actor)
    await keepLook(trx, actor.id, now(), packIds(all.filter((own) => own.now).map(({ row }) => row.id)))
  })
}

async function stand(trx: Knex, actor: Actor): Promise<{ all: Stood[]; looked: Date | null; today: string }> {
  const at = now()
  const today = localDate(at.getTime(), settings().ARCH_ZONE)
  const look = await lookOf(trx, actor.id)
  await followSeenLists(trx, actor.id, at, look?.reach_days ?? REACH_DAYS)
  const then = look ? unpackIds(look.unhandled) : []
  const before = new Set(then)
  const rows = await changesFor(trx, { me: actor.id, today, looked: look?.at ?? null, then })
  const all = rows.map((row): Stood => {
    const open = (row.state === 'open' || row.state === 'taken') && !row.gone && row.putOff !== 'waiting'
    return {
      row,
      now: row.followed && open,
      then: before.has(row.id),
      freshness: freshnessOf({ after: row.after_day, by: row.by_day }, row.fresh_days, today),
    }
  })
  return { all, looked: look?.at ?? null, today }
}

const URGENT: readonly Asks[] = ['lead', 'answer', 'confirm', 'opening', 'reconsider']

/** The freshest first; of those what waits for an answer, then what may be wrong, then what opens a door; the latest first. */
function mostUseful(a: Stood, b: Stood): number {
  return (
    FRESHNESS.indexOf(a.freshness) - FRESHNESS.indexOf(b.freshness) ||
    URGENT.indexOf(a.row.asks) - URGENT.indexOf(b.row.asks) ||
    (a.row.by_day === b.row.by_day ? b.row.id - a.row.id : a.row.by_day < b.row.by_day ? 1 : -1)
  )
}

/** Changes as whoever looks sees them, in the order asked for. */
export async function changeRows(trx: Knex, actor: Actor, ids: readonly number[], today: string): Promise<ChangeRow[]> {
  const words = await fieldWords(trx)
  return (await shownChanges(trx, ids, actor.id, settings().ARCH_ZONE)).map((row) => shownRow(row, actor, today, words))
}

const subjectOf = (row: ShownRow): Subject =>
  row.person_id !== null ? 'person' : row.organisation_id !== null ? 'organisation' : 'premises'

function shownRow(row: ShownRow, actor: Actor, today: string, words: FieldWords): ChangeRow {
  const of = subjectOf(row)
  const interval = { after: row.after_day, by: row.by_day }
  const freshness = freshnessOf(interval, row.fresh_days, today)
  const told = row.field === null ? null : words.told({ field: row.field, before: row.before, after: row.after })
  return {
    ...interval,
    id: row.id,
    of,
    record: (row.person_id ?? row.organisation_id ?? row.premises_id) as number,
    name: row.name,
    organisation: row.organisation,
    kind: row.kind,
    kindId: row.kind_id,
    asks: row.asks,
    field: told && { name: told.field, before: told.before, after: told.after },
    text: row.field === null ? happened(row) : null,
    link: row.entry_kind === 'reported' && row.field === null && /^https?:\/\//.test(row.after ?? '') ? row.after : null,
    sources: row.sources,
    source: row.source,
    sure: row.sure as ChangeRow['sure'],
    freshness,
    state: row.state,
    stateBy: row.state_name,
    mine: row.state_by === actor.id,
    lists: (row.told ?? []).map(({ id, name, before, after, moved }) => ({
      id,
      name,
      is: !moved ? 'stays on' : after && !before ? 'now fits' : 'no longer fits',
    })),
    opener: freshness === 'gone' || row.opener === null || row.sure === 'to be confirmed' ? null : openerOf(row, interval, today, told),
    leads: row.relation === 'in talks' || row.asks === 'lead' ? (row.leads ?? '') : null,
    after_contact: row.contacted_at && `${row.contacted_at.toISOString()}|${row.contacted_by ?? ''}`,
    putOffUntil: row.put_off_until,
    confirmed: row.confirmed,
    decide: row.entry_kind !== 'reported' ? null : row.key === 'left' ? 'left' : row.field !== null ? 'field' : null,
  }
}

function happened(row: ShownRow): string {
  if (row.entry_kind === 'contact') return `${row.result} by ${CHANNEL_NAME[row.channel as Way] ?? 'another way'}`
  return row.note ?? row.kind
}

function openerOf(
  row: ShownRow,
  interval: { after: string | null; by: string },
  today: string,
  told: { before: string; after: string } | null,
) {
  return openerText(row.opener as string, {
    when: provedWhen(interval, today),
    before: row.before === null ? null : (told?.before ?? null),
    after: row.after === null ? null : (told?.after ?? null),
    organisation: row.organisation ?? (row.organisation_id === null ? null : row.name),
    given: row.given,
  })
}
