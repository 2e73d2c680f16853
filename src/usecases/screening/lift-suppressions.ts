import { goodThrough } from '@/core/screening/register'
import type { RegisterView } from '@/core/views/round-views'
import type { Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import {
  goneFrom,
  insertLifting,
  insertLifts,
  liftedAmong,
  newestRegisters,
  peopleOfSuppressions,
  standingBy,
} from '@/db/screening/liftings'
import { peopleTouched } from '@/db/screening/suppression-rows'
import { numberSetting } from '@/db/team/settings'

/**
 * Lifts some suppressions as one act, each by an entry for everybody it touches. Throws Refused where one is lifted already.
 * The caller holds the lifts and has looked at what it lifts since.
 */
export async function liftMany(
  trx: Knex,
  actor: Actor,
  ids: number[],
  { word, register, version, standing }: { word: string; register?: string; version?: string; standing?: number },
): Promise<number> {
  const at = now()
  const lifted = await liftedAmong(trx, ids)
  if (lifted) throw new Refused('This suppression is lifted already.')
  const [{ id }] = await insertLifting(trx, { at, word, actorId: actor.id, register, version, ids, standing })
  await insertLifts(trx, { at, word, actorId: actor.id, id, ids })
  const told = await peopleOfSuppressions(trx, ids)
  const touched = await peopleTouched(trx, ids)
  const people = new Map(ids.map((s) => [s, new Set<number>(touched.get(s) ?? [])]))
  for (const { suppression_id, person_id } of told) people.get(suppression_id)?.add(person_id)
  await writeEntries(
    trx,
    [...people].flatMap(([suppression, of]) =>
      [...of].map((person) => ({ person, kind: 'lifted' as const, at, actor: actor.id, suppression, note: word })),
    ),
    at,
  )
  return id
}

/** Each register by its name, with the version in use; the one that runs out first comes first. */
export async function registersInUse(trx: Knex): Promise<RegisterView[]> {
  const rows = await newestRegisters(trx)
  const share = await numberSetting('lift-share', trx)
  const registers: RegisterView[] = []
  for (const { name, version, good_for, fresh, gone } of rows) {
    const lifts = (await goneFrom(trx, name)).length
    registers.push({
      name,
      version,
      goodThrough: goodThrough(version, good_for),
      since: fresh === null ? null : { fresh, gone: gone as number },
      stillHeld: lifts,
      standing: await standingBy(trx, name),
      share,
    })
  }
  return registers.sort((a, b) => (a.goodThrough < b.goodThrough ? -1 : a.goodThrough > b.goodThrough ? 1 : 0))
}
