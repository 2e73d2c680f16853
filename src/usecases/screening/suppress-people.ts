import type { PostalParts } from '@/core/clean/postal'
import type { Knex } from '@/db/connection'
import { hintOf, suppressedBy } from '@/db/key'
import { writeEntries } from '@/db/ledger'
import { stopContacts } from './stop-contacts'
import { passGate } from '@/db/locks'
import { insertKeys, insertSuppressions, peopleTouched } from '@/db/screening/suppression-rows'
import { personNames } from '@/db/directory/person-rows'
import { addressKeysOf } from '@/db/directory/address-rows'
import { type Channel, CHANNELS } from '@/core/records/channels'
import type { Reason, Scope } from '@/core/records/suppression'

/** Whom a suppression is of: a person, or whoever has an address, number, domain or organisation now or later. */
export type Suppressed =
  | { person: number }
  | { household: PostalParts }
  | { email: string }
  | { phone: string }
  | { direct: string }
  | { domain: string }
  | { postal: PostalParts }
  | { organisation: { id: number | null; name: string; nameKey: string } }

/** A suppression to be written. */
export interface NewSuppression {
  of: Suppressed
  reason: Reason
  channels: Channel[]
  /** Null: from the moment it is recorded. */
  since: Date | null
  until: Date | null
  word: string
  /** What it rests on besides: a message, a note. */
  evidence?: string | null
  actor: string
  batch?: number
}

function scopeOf(of: Suppressed): Scope {
  if ('household' in of) return 'household'
  return 'person' in of
    ? 'person'
    : 'email' in of
      ? 'email'
      : 'phone' in of
        ? 'phone'
        : 'direct' in of
          ? 'direct'
          : 'domain' in of
            ? 'domain'
            : 'postal' in of
              ? 'post'
              : 'organisation'
}

/** The channels that can be closed by what a suppression is keyed on. */
function channelsOf(scope: Scope): readonly Channel[] {
  if (scope === 'person' || scope === 'household' || scope === 'organisation') return CHANNELS
  return scope === 'domain' ? ['email'] : [scope]
}

/**
 * The channels a suppression closes: the chosen ones of those that its reason and what it is keyed on can close, or all of these where
 * none of them was chosen. A do-not-call register closes phones and nothing else. Empty: it can close nothing.
 */
export function channelsClosed(reason: Reason, of: Suppressed, chosen: readonly Channel[]): Channel[] {
  const possible = channelsOf(scopeOf(of)).filter((channel) => reason !== 'register' || channel === 'phone')
  const asked = possible.filter((channel) => chosen.includes(channel))
  return asked.length > 0 ? asked : possible
}

/**
 * Writes suppressions and tells the ledger of everybody they touch. A suppression of a person is keyed on their emails,
 * phones and profiles as well, so that it catches them when they come in again; not on their postal address, which would close it
 * for a whole house or school, and by which, with the name, they are known again anyway. Runs in the caller's transaction. It
 * passes the gate first and takes the moment there, so that a release either heeds it or lies before it; contacts that released rounds
 * are still to make are stopped.
 */
export async function writeSuppressions(trx: Knex, suppressions: NewSuppression[]): Promise<number[]> {
  if (suppressions.length === 0) return []
  const recordedAt = await passGate(trx)
  const people = suppressions.flatMap((s) => ('person' in s.of ? [s.of.person] : []))
  const addresses = await addressKeysOf(trx, people)
  const names = new Map((await personNames(trx, people)).map((p) => [p.id, p.name]))
  const ids: number[] = (
    await insertSuppressions(
      trx,
      suppressions.map((s) => ({
        reason: s.reason,
        channels: s.channels,
        scope: scopeOf(s.of),
        person_id: 'person' in s.of ? s.of.person : null,
        organisation_id: 'organisation' in s.of ? s.of.organisation.id : null,
        hint: hint(s.of, names),
        since: s.since ?? recordedAt,
        until: s.until,
        word: s.word,
        evidence: s.evidence ?? null,
        actor_id: s.actor,
        batch_id: s.batch ?? null,
        recorded_at: recordedAt,
      })),
    )
  ).map((row) => row.id)
  const keys = suppressions.flatMap((s, i) => keysFor(s, addresses).map((k) => ({ suppression_id: ids[i], ...k })))
  if (keys.length > 0) await insertKeys(trx, keys)
  const touched = await peopleTouched(trx, ids)
  await writeEntries(
    trx,
    suppressions.flatMap((s, i) =>
      (touched.get(ids[i]) ?? []).map((person) => ({
        person,
        kind: 'suppressed' as const,
        at: recordedAt,
        actor: s.actor,
        suppression: ids[i],
        batch: s.batch,
        result: s.reason,
      })),
    ),
    recordedAt,
  )
  const actors = new Map(ids.map((id, i) => [id, suppressions[i].actor]))
  await stopContacts(trx, ids, (id) => actors.get(id) as string, recordedAt)
  return ids
}

function keysFor({ of, channels }: NewSuppression, addresses: { person_id: number; channel: Channel; key: Buffer }[]) {
  if (!('person' in of)) return keysOfSuppressed(of)
  return addresses
    .filter((a) => a.person_id === of.person && a.channel !== 'post' && channels.includes(a.channel))
    .map(({ channel, key }) => ({ channel, key }))
}

/** The keys of what is suppressed by something other than the record of a person. */
export function keysOfSuppressed(of: Exclude<Suppressed, { person: number }>): { channel: string; key: Buffer }[] {
  if ('household' in of) return suppressedBy({ postal: of.household }).map(({ key }) => ({ channel: 'household', key }))
  return suppressedBy('organisation' in of ? { organisationKey: of.organisation.nameKey } : of)
}

function hint(of: Suppressed, names: Map<number, string>): string {
  if ('person' in of) return initials(names.get(of.person) ?? '')
  if ('email' in of) return hintOf('email', of.email)
  if ('phone' in of) return hintOf('phone', of.phone)
  if ('direct' in of) return hintOf('direct', of.direct)
  if ('domain' in of) return of.domain
  if ('organisation' in of) return of.organisation.name
  const { town, postcode } = 'household' in of ? of.household : of.postal
  return [town, postcode].filter(Boolean).join(', ')
}

function initials(name: string): string {
  return name
    .split(' ')
    .map((part) => `${[...part][0] ?? ''}.`)
    .join(' ')
}
