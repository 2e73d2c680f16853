import type { Line } from '@/core/lists/line'
import { subjectOf } from '@/core/lists/line'
import type { Subject } from '@/core/records/subject'
import { db } from '@/db/connection'
import { concerned, keepStanding, listsToTell, markTold, standingOf, type ToldRow, untoldChanges, writeTold } from '@/db/changes/told-rows'
import { askEngine } from '@/engine/client'
import { unpackIds } from '@/engine/packed-ids'
import { log } from '@/runtime/log'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { expanded, withLastRounds } from '@/usecases/lists/named-lists'
import { momentNow } from '@/usecases/screening/screening-now'
import { Refused } from '@/usecases/team/actor'

/** So many changes are told at once. */
const AT_ONCE = 20_000

/**
 * Finds which lists each new change concerns: those its record was on before it, or is on now, so that somebody who leaves a list by
 * a change is told of, too. Who was on before is kept from one time to the next. Returns how many changes were told of.
 */
export async function tellChanges(): Promise<number> {
  let told = 0
  for (;;) {
    const changes = (await untoldChanges(db(), AT_ONCE)).map(({ id }) => id)
    if (changes.length === 0) break
    const whom = new Map<Subject, Concerned>()
    for (const list of await listsToTell(db(), 'all')) await tellList(list, await concernedBy(whom, changes, list))
    await markTold(db(), changes, now())
    told += changes.length
  }
  // Lists and editions that are new are asked who is on before the next change comes.
  for (const list of await listsToTell(db(), 'new')) await tellList(list, [])
  return told
}

type Concerned = { change: number; record: number }[]

/** Whom changes concern on lists of a list's subject: looked up once for all of them. */
async function concernedBy(known: Map<Subject, Concerned>, changes: number[], list: { lines: Line[] }): Promise<Concerned> {
  const subject = subjectOf(list.lines)
  const found = known.get(subject) ?? (await concerned(db(), changes, subject))
  known.set(subject, found)
  return found
}

async function tellList(list: { id: number; edition: number; lines: Line[] }, whom: Concerned): Promise<void> {
  const packed = await membersOf(list.lines)
  if (packed === null) return
  const standing = await standingOf(db(), list.id)
  const after = unpackIds(packed)
  const before = standing ? unpackIds(standing.members) : after
  const sameLines = standing?.edition === list.edition
  const found = new Map<number, ToldRow>()
  for (const { change, record } of whom) {
    const [was, is] = [holds(before, record), holds(after, record)]
    if (!was && !is) continue
    const row = found.get(change) ?? { list_id: list.id, change_id: change, before: false, after: false, moved: false }
    found.set(change, {
      ...row,
      before: row.before || was,
      after: row.after || is,
      moved: row.moved || (sameLines && was !== is),
    })
  }
  // Together: told twice, a change would find everybody where they are now.
  await db().transaction(async (trx) => {
    await writeTold(trx, [...found.values()])
    await keepStanding(trx, list.id, list.edition, packed, now())
  })
}

/** Whether ids in ascending order hold one: a few are looked for among very many. */
function holds(ids: readonly number[], id: number): boolean {
  let [low, high] = [0, ids.length - 1]
  while (low <= high) {
    const middle = (low + high) >> 1
    if (ids[middle] === id) return true
    if (ids[middle] < id) low = middle + 1
    else high = middle - 1
  }
  return false
}

/** Who is on some saved lines now, as packed ids; null where they name what is gone. Throws EngineAway while the engine is away. */
export async function membersOf(lines: Line[]): Promise<Buffer | null> {
  try {
    const page = await expanded(lines)
    const moment = await withLastRounds(momentNow(settings().ARCH_ZONE), [page])
    const { packed } = await askEngine('members', { lines: page.lines, named: page.named, moment })
    return Buffer.from(packed, 'base64')
  } catch (error) {
    if (!(error instanceof Refused)) throw error
    log.warn({ message: error.message }, 'a list names what is gone, so its changes are not told')
    return null
  }
}
