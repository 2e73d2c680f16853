import { localDate } from '@/core/calendar/local-day'
import { type Line, subjectOf } from '@/core/lists/line'
import { db } from '@/db/connection'
import { latestEdition } from '@/db/lists/list-rows'
import { peopleOfSet } from '@/db/lists/pick-sets'
import {
  changesToPlace,
  placingLists,
  type PlacingList,
  type ToPlace,
  waitingPlacements,
  writePlaced,
  writePlacement,
} from '@/db/lists/placement-rows'
import { proposalRow } from '@/db/lists/proposals'
import { actorRow } from '@/db/team/colleagues'
import { tellWork } from '@/db/team/news'
import { log } from '@/runtime/log'
import { now } from '@/runtime/clock'
import { membersOf } from '@/usecases/changes/tell-changes'
import { type Actor, Refused } from '@/usecases/team/actor'
import { unpackIds } from '@/engine/packed-ids'
import { listFor } from './open-list'
import { propose } from './proposals'
import { withPicks } from './put-on-list'
import { saveEdition } from './save-edition'
import { decide } from './settle-held'

/** So many changes put their record on one list at once. */
const AT_ONCE = 5000

/**
 * Puts the records of new changes on the lists that ask for it. What whoever set it up may do is looked at anew each time: where they may
 * not any more, it ends and they are told. Returns how many changes put somebody on a list or proposed to.
 */
export async function placeByChanges(): Promise<number> {
  let placed = 0
  for (const placing of await placingLists(db())) {
    const actor = await actorRow(db(), placing.set_by)
    try {
      if (!actor) throw new Refused('Whoever set it up has left the team.')
      placed += await placeOn(actor, placing)
    } catch (error) {
      if (!(error instanceof Refused)) throw error
      await endPlacement(placing, error.message)
    }
  }
  return placed
}

async function placeOn(actor: Actor, { list: id, how }: Omit<PlacingList, 'kinds'>): Promise<number> {
  const list = await listFor(actor, id, 'edit')
  const found = await changesToPlace(db(), id, list.subject, localDate(now().getTime(), list.zone), AT_ONCE)
  if (found.length === 0) return 0
  const { number, lines } = await latestEdition(id)
  const packed = await membersOf(lines)
  if (packed === null) return 0
  const on = new Set(unpackIds(packed))
  // Whoever was taken off by hand stays off: a change knows nothing of why.
  const off = await pickedOut(lines)
  const here = found.filter(({ record }) => on.has(record))
  const away = found.filter(({ record }) => !on.has(record) && off.has(record))
  const fresh = found.filter(({ record }) => !on.has(record) && !off.has(record))
  await db().transaction(async (trx) => {
    await writePlaced(trx, id, changesOf(here), 'on already')
    await writePlaced(trx, id, changesOf(away), 'taken off before')
  })
  if (fresh.length === 0) return 0
  return how === 'edition' ? putOn(actor, id, number, lines, fresh) : proposeThem(actor, id, number, lines, fresh, on)
}

async function putOn(actor: Actor, id: number, number: number, lines: Line[], fresh: ToPlace[]): Promise<number> {
  const next = await withPicks(db(), actor, subjectOf(lines), lines, 'in', recordsOf(fresh), reasonOf(fresh))
  const saved = await saveEdition(actor, id, number, next, {
    why: noteOf(fresh),
    draft: 'stays',
    also: (trx) => writePlaced(trx, id, changesOf(fresh), 'put on'),
  })
  // Somebody saved another edition meanwhile: the next look begins from that one.
  return 'theirs' in saved ? 0 : fresh.length
}

/** One proposal waits at a time: what waits already comes along in the new one. */
async function proposeThem(
  actor: Actor,
  id: number,
  number: number,
  lines: Line[],
  fresh: ToPlace[],
  on: ReadonlySet<number>,
): Promise<number> {
  const waiting = (await waitingPlacements(db(), id, subjectOf(lines))).filter(({ record }) => !on.has(record))
  const all = [...waiting, ...fresh]
  const next = await withPicks(db(), actor, subjectOf(lines), lines, 'in', recordsOf(all), reasonOf(all))
  await propose(actor, id, number, next, noteOf(all), {
    draft: 'stays',
    also: async (trx, proposal) => {
      for (const old of new Set(waiting.map((row) => row.proposal))) {
        const row = await proposalRow(trx, old)
        if (row.decision === null) await decide(trx, row, { decision: 'taken back', decided_by: row.proposed_by })
      }
      await writePlaced(trx, id, changesOf(all), 'proposed', proposal)
    },
  })
  return fresh.length
}

async function pickedOut(lines: readonly Line[]): Promise<Set<number>> {
  const out = new Set<number>()
  for (const line of lines)
    if (line.verb === 'pick' && line.side === 'out' && !line.off)
      for (const id of (await peopleOfSet(db(), line.set.id)).people) out.add(id)
  return out
}

async function endPlacement({ list, name, set_by }: Omit<PlacingList, 'kinds'>, why: string): Promise<void> {
  log.warn({ list, why }, 'changes put nobody on a list any more')
  await db().transaction(async (trx) => {
    await writePlacement(trx, list, set_by, { how: 'proposal', kinds: [] })
    await tellWork(trx, set_by, `Changes put nobody on “${name}” any more. ${why}`, `/lists/${list}`)
  })
}

const changesOf = (found: readonly ToPlace[]): number[] => found.map(({ change }) => change)
const recordsOf = (found: readonly ToPlace[]): number[] => [...new Set(found.map(({ record }) => record))]
const kindsOf = (found: readonly ToPlace[]): string => [...new Set(found.map(({ kind }) => kind.toLowerCase()))].sort().join(', ')

const reasonOf = (found: readonly ToPlace[]): string => `by a change: ${kindsOf(found)}`.slice(0, 200)
const noteOf = (found: readonly ToPlace[]): string => `${recordsOf(found).length} by changes: ${kindsOf(found)}`.slice(0, 500)
