import type { Subject } from '@/core/records/subject'
import type { FollowingView } from '@/core/views/change-views'
import { feedAccounts } from '@/db/changes/feed-rows'
import { lookOf } from '@/db/changes/changes-for'
import { follow, followedLists, followedRecords, setReach } from '@/db/changes/follow-rows'
import { recordStands } from '@/db/changes/report-rows'
import { db } from '@/db/connection'
import { packIds } from '@/engine/packed-ids'
import { roleOn } from '@/db/lists/list-rows'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import { changeKinds } from './change-kinds'
import { REACH_DAYS } from './changes-page'

/** What somebody follows: lists they may see, records by themselves, and the kinds they hear of. */
export async function following(actor: Actor): Promise<FollowingView> {
  return {
    lists: (await followedLists(db(), actor.id)).map(({ id, name, following, only_follow }) => ({
      id,
      name,
      following,
      onlyFollow: only_follow,
    })),
    records: await followedRecords(db(), actor.id),
    kinds: await changeKinds(actor),
    feeds: (await feedAccounts(db())).map(({ name, read_at, error, outcomes }) => ({
      name,
      readAt: read_at?.toISOString() ?? null,
      error,
      outcomes,
    })),
    reachDays: (await lookOf(db(), actor.id))?.reach_days ?? REACH_DAYS,
  }
}

/** Begins or ends following a list. Throws Refused where it is private to somebody else. */
export async function followList(actor: Actor, list: number, on: boolean): Promise<void> {
  await db().transaction(async (trx) => {
    if (!(await roleOn(trx, list, actor.id))?.role) throw new Refused('There is no such list.', 'not found')
    await follow(trx, actor.id, { list }, on, now(), (await lookOf(trx, actor.id))?.reach_days ?? REACH_DAYS)
  })
}

/** Begins or ends following one record by itself. The record never learns of it. */
export async function followRecord(actor: Actor, of: Subject, id: number, on: boolean): Promise<void> {
  await db().transaction(async (trx) => {
    if (on && !(await recordStands(trx, of, id))) throw new Refused('There is no such record in the directory.', 'not found')
    await follow(trx, actor.id, { of, id }, on, now(), (await lookOf(trx, actor.id))?.reach_days ?? REACH_DAYS)
  })
}

/** How far back what somebody begins to follow from now on reaches, in days. */
export async function reachBack(actor: Actor, days: number): Promise<void> {
  await setReach(db(), actor.id, days, now(), packIds([]))
}
