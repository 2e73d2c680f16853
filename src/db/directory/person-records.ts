import type { Knex } from 'knex'
import type { Address, Contact, ContactToCome, PersonRecord } from '@/core/records/person-record'
import { EMAIL_STATES, isShared, PHONE_STATES, placeOfState } from '@/core/records/address-state'
import { channelsOfBits, type PartName, PARTS } from './person-parts'
import { CHANNELS, type Channel, WAYS } from '@/core/records/channels'
import type { Relation } from '@/core/records/relations'
import type { Suppression } from '@/core/records/suppression'

/** A record as it stands; one that is not live was withdrawn, or merged into another. */
export interface StandingRecord {
  live: boolean
  mergedInto: number | null
  record: PersonRecord
  /** Set where contacts were not asked for: the record has none of them. */
  withoutContacts: boolean
}

type Row = Record<string, never>

/**
 * Everything criteria and rules can ask about, for some people. What is known of records that were merged into one of
 * them counts as theirs. The caller gives a transaction where the parts must belong together. Rounds are left empty.
 * Contacts are left out of those `but` names, which are most of what there is to read.
 */
export async function personRecords(trx: Knex, ids: number[], but: ReadonlySet<number> = new Set()): Promise<StandingRecord[]> {
  if (ids.length === 0) return []
  const merged: { id: number; merged_into: number }[] = await trx('person')
    .whereRaw('merged_into = any(?::bigint[])', [ids])
    .select('id', 'merged_into')
  const rootOf = new Map(merged.map((m) => [m.id, m.merged_into]))
  const whole = [...ids, ...rootOf.keys()]
  const read = async <T extends { person_id: number }>(name: PartName, of = whole): Promise<Map<number, T[]>> => {
    const rows = of.length === 0 ? [] : await ask<T>(trx, name, of)
    const map = new Map<number, T[]>()
    for (const row of rows) {
      const person = rootOf.get(row.person_id) ?? row.person_id
      const known = map.get(person)
      if (known) known.push(row)
      else map.set(person, [row])
    }
    return map
  }
  const people = await ask<Row & { id: number; state: string }>(trx, 'people', ids)
  const addresses = await read<
    Row & {
      person_id: number
      id: number
      channel: number
      usable: boolean
      failed: number | null
      traits: number
      checked: number | null
      key: number
    }
  >('addresses')
  const onAddress = await read<SuppressionRow & { address: number }>('onAddress')
  const soft = await read<{ person_id: number; address: number; at: number }>('softBounces')
  const onPerson = await read<SuppressionRow>('onPerson')
  const contacts = await read<{ person_id: number; at: number; way: number; by: string; result: string | null; round: number | null }>(
    'contacts',
    whole.filter((id) => !but.has(rootOf.get(id) ?? id)),
  )
  const toCome = await read<{ person_id: number; round_id: number; channel: number; since: number }>('toCome')
  const batches = await read<{ person_id: number; batch_id: number }>('batches')
  return people.map((p) => ({
    live: p.state === 'live',
    mergedInto: p.merged_into as number | null,
    withoutContacts: but.has(p.id),
    record: {
      id: p.id,
      given: p.given as string,
      family: p.family as string,
      role: p.role as string | null,
      organisation: p.organisation_id as number | null,
      premises: p.premises_id as number | null,
      county: p.county as string | null,
      town: p.town as string | null,
      postcode: p.postcode as string | null,
      street: p.street as string | null,
      relation: p.relation as Relation | null,
      country: p.country as string | null,
      offLimits: p.off_limits as string | null,
      tags: p.tags as string[],
      custom: p.custom === null ? {} : JSON.parse(p.custom),
      changedAt: p.changed as number | null,
      sortKey: p.sort_key as string,
      addresses: (addresses.get(p.id) ?? []).map(
        (a): Address => ({
          id: a.id,
          channel: CHANNELS[a.channel] as Channel,
          usable: a.usable,
          failedAt: a.failed,
          ...(soft.has(p.id) ? { softAt: (soft.get(p.id) ?? []).filter((s) => s.address === a.id).map((s) => s.at) } : {}),
          key: a.key,
          country: a.country as string | null,
          ...(a.channel >= 2
            ? {}
            : {
                traits: { shared: isShared(a.traits), state: (a.channel === 0 ? EMAIL_STATES : PHONE_STATES)[placeOfState(a.traits)] },
                checkedAt: a.checked,
              }),
          suppressions: (onAddress.get(p.id) ?? []).filter((s) => s.address === a.id).map(suppressionOf),
        }),
      ),
      suppressions: (onPerson.get(p.id) ?? []).map(suppressionOf),
      contacts: (contacts.get(p.id) ?? []).map(
        (c): Contact => ({ at: c.at, channel: WAYS[c.way], by: c.by, result: c.result, ...(c.round === null ? {} : { round: c.round }) }),
      ),
      toCome: (toCome.get(p.id) ?? []).map(
        (t): ContactToCome => ({ round: t.round_id, channel: CHANNELS[t.channel] as Channel, since: t.since }),
      ),
      batches: [...new Set((batches.get(p.id) ?? []).map((b) => b.batch_id))],
      rounds: [],
    },
  }))
}

async function ask<T>(trx: Knex, name: PartName, ids: number[]): Promise<T[]> {
  const { sql, own, order } = PARTS[name]
  const query = `${sql.replaceAll('{where}', `${own} = any(?::bigint[])`)} order by ${order}`
  const marks = query.split('?').length - 1
  return (await trx.raw(query, Array.from({ length: marks }, () => ids) as never)).rows
}

interface SuppressionRow {
  person_id: number
  id: number
  reason: Suppression['reason']
  bits: number
  since: number
  until: number | null
}

function suppressionOf({ id, reason, bits, since, until }: SuppressionRow): Suppression {
  return { id, reason, channels: channelsOfBits(bits), since, until }
}
