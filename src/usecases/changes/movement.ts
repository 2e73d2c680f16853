import { datePlusDays, localDate, startOfDate } from '@/core/calendar/local-day'
import { organisationKey } from '@/core/clean/organisation'
import { byLevel, type Mover, movementOf } from '@/core/changes/movement'
import type { MovementPage } from '@/core/views/movement-views'
import { type MoveRow, moversAt, organisationsOf, standingsFollowed, workedWith } from '@/db/changes/movement-rows'
import { db } from '@/db/connection'
import { organisationName } from '@/db/directory/organisation-rows'
import { unpackIds } from '@/engine/packed-ids'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, Refused } from '@/usecases/team/actor'

/** At how many organisations movement is told of at once; it is read from changes and not kept. */
const MOST = 5000

/** Of which organisations: one, those of a list, or those of everybody one follows. */
export interface MovementOf {
  organisation: number | null
  list: number | null
}

/** The movement of people over the last `days`, at one organisation, at those of a list, or at those of everybody one follows. */
export async function movementPage(actor: Actor, of: MovementOf, days: number): Promise<MovementPage> {
  const zone = settings().ARCH_ZONE
  const back = Math.min(1100, Math.max(1, Math.trunc(days) || 90))
  const since = datePlusDays(localDate(now().getTime(), zone), -back)
  const { name, ids } = await organisationsMeant(actor, of)
  const { people, moves, keys } = await moversAt(db(), ids.slice(0, MOST), since, new Date(startOfDate(since, zone)))
  const theirs = new Map<number, MoveRow[]>()
  for (const move of moves) theirs.set(move.person_id, [...(theirs.get(move.person_id) ?? []), move])
  const movers = people.map((p): Mover & { from: string | null } => {
    // What it is now, gone back through each change to what it was when the period began.
    const then = { organisation: p.organisation, role: p.role }
    for (const { field, before } of theirs.get(p.id) ?? []) then[field] = before
    return {
      id: p.id,
      known: p.known,
      from: then.organisation,
      then: { organisation: then.organisation === null ? null : organisationKey(then.organisation), role: then.role },
      now: { organisation: p.organisation_key, role: p.role },
    }
  })
  const moved = movementOf(movers, new Set(keys))
  const byId = new Map(people.map((p) => [p.id, p]))
  const fromOf = new Map(movers.map((mover) => [mover.id, mover]))
  const arrivedFrom = moved.flatMap((m) => (m.movement === 'arrived' ? (fromOf.get(m.id)?.then.organisation ?? []) : []))
  const dealt = await workedWith(db(), arrivedFrom)
  return {
    of,
    name,
    since,
    days: back,
    organisations: ids.length,
    capped: ids.length > MOST,
    levels: byLevel(moved),
    people: moved.map(({ id, movement, before, after }) => {
      const [person, mover] = [byId.get(id), fromOf.get(id)]
      return {
        id,
        name: person?.name ?? '',
        movement,
        before,
        after,
        organisation: movement === 'left' ? (mover?.from ?? null) : (person?.organisation ?? null),
        role: person?.role ?? null,
        roleThen: mover?.then.role ?? null,
        // Where somebody came from, and where they went, as far as it is known.
        other: movement === 'arrived' ? (mover?.from ?? null) : movement === 'left' ? (person?.organisation ?? null) : null,
        dealt: movement === 'arrived' && mover?.then.organisation != null && dealt.has(mover.then.organisation),
      }
    }),
  }
}

async function organisationsMeant(actor: Actor, { organisation, list }: MovementOf): Promise<{ name: string; ids: number[] }> {
  if (organisation !== null) {
    const found = Number.isSafeInteger(organisation) ? await organisationName(db(), organisation) : undefined
    if (!found) throw new Refused('There is no such organisation in the directory.', 'not found')
    return { name: found.name, ids: [organisation] }
  }
  const name = list === null ? 'everybody you follow' : (await listFor(actor, list)).name
  const organisations = new Set<number>()
  for (const { subject, members } of await standingsFollowed(db(), actor.id, list)) {
    const ids = unpackIds(members)
    for (const id of subject === 'organisation' ? ids : await organisationsOf(db(), ids)) organisations.add(id)
  }
  return { name, ids: [...organisations].sort((a, b) => a - b) }
}
