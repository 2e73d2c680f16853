import type { Channel, Reason } from '@/core/columns/person-record'
import type { Knex } from '@/db/connection'
import { addressKey, hintOf } from '@/db/key'
import { writeEntries } from '@/db/ledger'

/** A suppression to be written: of a person, or of an e-mail or phone whoever has it now or later. */
export interface NewSuppression {
  of: { person: number } | { email: string } | { phone: string }
  reason: Reason
  channels: Channel[]
  since: Date
  until: Date | null
  word: string
  actor: string
  batch?: number
}

/**
 * Writes suppressions and tells the ledger of everybody they touch. A suppression of a person is keyed on their e-mails
 * and phones as well, so that it catches them when they come in again; not on their postal address, which would close it
 * for a whole house or school, and by which, with the name, they are known again anyway. Runs in the caller's transaction.
 */
export async function writeSuppressions(trx: Knex, suppressions: NewSuppression[], recordedAt: Date): Promise<number[]> {
  if (suppressions.length === 0) return []
  const people = suppressions.flatMap((s) => ('person' in s.of ? [s.of.person] : []))
  const addresses = await trx('address').whereIn('person_id', people).select('person_id', 'channel', 'key')
  const names = new Map((await trx('person').whereIn('id', people).select('id', 'name')).map((p) => [p.id, p.name]))
  const ids: number[] = (
    await trx('suppression').insert(
      suppressions.map((s) => ({
        reason: s.reason,
        channels: s.channels,
        scope: 'person' in s.of ? 'person' : 'email' in s.of ? 'email' : 'phone',
        person_id: 'person' in s.of ? s.of.person : null,
        hint: 'person' in s.of ? initials(names.get(s.of.person) ?? '') : 'email' in s.of ? hintOf('email', s.of.email) : hintOf('phone', s.of.phone),
        since: s.since,
        until: s.until,
        word: s.word,
        actor_id: s.actor,
        batch_id: s.batch ?? null,
        recorded_at: recordedAt,
      })),
      'id',
    )
  ).map((row) => row.id)
  const keys = suppressions.flatMap((s, i) => keysOf(s, addresses).map((k) => ({ suppression_id: ids[i], ...k })))
  if (keys.length > 0) await trx('suppression_key').insert(keys).onConflict(['suppression_id', 'key']).ignore()
  const sharing = await trx('suppression_key as k').join('address as a', 'a.key', 'k.key').whereIn('k.suppression_id', ids).distinct('k.suppression_id', 'a.person_id')
  const touched = new Map<number, Set<number>>(ids.map((id, i) => [id, new Set('person' in suppressions[i].of ? [(suppressions[i].of as { person: number }).person] : [])]))
  for (const row of sharing) touched.get(row.suppression_id)?.add(row.person_id)
  await writeEntries(
    trx,
    suppressions.flatMap((s, i) =>
      [...(touched.get(ids[i]) ?? [])].map((person) => ({ person, kind: 'suppressed' as const, at: recordedAt, actor: s.actor, suppression: ids[i], batch: s.batch, result: s.reason })),
    ),
    recordedAt,
  )
  return ids
}

function keysOf(s: NewSuppression, addresses: { person_id: number; channel: Channel; key: Buffer }[]) {
  if ('email' in s.of) return [{ channel: 'email', key: addressKey('email', s.of.email) }]
  if ('phone' in s.of) return [{ channel: 'phone', key: addressKey('phone', s.of.phone) }]
  const { person } = s.of
  return addresses.filter((a) => a.person_id === person && a.channel !== 'post' && s.channels.includes(a.channel)).map(({ channel, key }) => ({ channel, key }))
}

function initials(name: string): string {
  return name
    .split(' ')
    .map((part) => `${part.slice(0, 1)}.`)
    .join(' ')
}
