import { goodThrough } from '@/core/screening/register'
import type { RegisterView } from '@/core/views/round-views'
import { db, type Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { countText } from '@/core/text/written'
import {
  goneFrom,
  holdLifts,
  insertLifting,
  insertLifts,
  insertLiftsBack,
  liftedAmong,
  liftingWord,
  liftsOf,
  newestRegisters,
  peopleOfSuppressions,
  registerVersion,
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

/**
 * Lifts what stands by an earlier version of a register and is not in the one in use any more, as one act that can be taken back.
 * `expected` is how many the person was shown. More than the share that is set needs a written reason. Gives how many.
 */
export async function liftGone(
  actor: Actor,
  { register, expected, why = '' }: { register: string; expected: number; why?: string },
): Promise<number> {
  mustCoordinate(actor, 'Lifting a suppression')
  return db().transaction(async (trx) => {
    await holdLifts(trx)
    const ids = await goneFrom(trx, register)
    if (ids.length === 0) throw new Refused('Nothing is left to lift: everything that stands is on the version in use.')
    if (ids.length !== expected)
      throw new Refused(
        `${countText(ids.length)} are not on the register any more, and you were shown ${countText(expected)}. Nothing was lifted; look again.`,
      )
    const standing = await standingBy(trx, register)
    const share = await numberSetting('lift-share', trx)
    const reason = why.trim()
    if (ids.length * 100 > standing * share && reason === '')
      throw new Refused(
        `These are ${countText(ids.length)} of the ${countText(standing)} that stand by ${register}, more than ${share} %. A file that is cut short looks just like that. Nothing was lifted. Write why it is right, or bring in the whole file.`,
      )
    const { version } = await registerVersion(trx, register)
    await liftMany(trx, actor, ids, {
      word: `not on ${register} of ${version} any more${reason ? `: ${reason}` : ''}`,
      register,
      version,
      standing,
    })
    return ids.length
  })
}

/** Takes a lift back: what it lifted stands again, each by an entry, unless it was taken back already. Gives how many. */
export async function takeBackLifting(actor: Actor, id: number): Promise<number> {
  mustCoordinate(actor, 'Taking a lift back')
  return db().transaction(async (trx) => {
    await holdLifts(trx)
    const at = await passGate(trx)
    const lifting = Number.isSafeInteger(id) ? await liftingWord(trx, id) : undefined
    if (!lifting) throw new Refused('There is no such lift.', 'not found')
    const lifts: { id: number; suppression_id: number }[] = await liftsOf(trx, id)
    if (lifts.length === 0) throw new Refused('This lift is taken back already.')
    const word = `the lift was taken back (${lifting.word})`
    await insertLiftsBack(
      trx,
      lifts.map((l) => l.id),
      at,
      word,
      actor.id,
    )
    const touched = await peopleTouched(
      trx,
      lifts.map((l) => l.suppression_id),
    )
    await writeEntries(
      trx,
      lifts.flatMap((l) =>
        (touched.get(l.suppression_id) ?? []).map((person) => ({
          person,
          kind: 'suppressed' as const,
          at,
          actor: actor.id,
          suppression: l.suppression_id,
          note: word,
        })),
      ),
      at,
    )
    return lifts.length
  })
}
