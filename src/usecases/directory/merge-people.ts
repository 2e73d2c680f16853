import { spareSteps } from '@/db/rounds/contacts-to-come'
import { customIdOf, customKey, type CustomValues } from '@/core/clean/custom'
import type { PostalParts } from '@/core/clean/postal'
import { db, type Knex } from '@/db/connection'
import { type NewEntry, writeEntries } from '@/db/ledger'
import { suppressionsTouching } from '@/db/rounds/stopped'
import { stopContacts } from '@/usecases/screening/stop-contacts'
import { passGate } from '@/db/locks'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { postalFor } from './postal-address'
import { postalText, postOf, writePost } from '@/db/directory/postal-rows'
import { carryMerged, insertMerge, moveAddresses, refigure, updateMerged } from '@/db/directory/merge-rows'
import { lockPeople, peopleWithOrganisation, updateFacts } from '@/db/directory/person-rows'

export const FIELDS = ['role', 'relation', 'county', 'outside_id'] as const

export const LABEL: Record<(typeof FIELDS)[number], string> = {
  role: 'role',
  relation: 'relation',
  county: 'county',
  outside_id: 'outside id',
}

export interface Row {
  id: number
  name: string
  state: string
  role: string | null
  relation: string | null
  county: string | null
  outside_id: string | null
  organisation_id: number | null
  organisation: string | null
  street: string | null
  town: string | null
  postcode: string | null
  address_key: string | null
  tags: string[]
  custom: CustomValues
}

/** Returns both people of a merge, locked where asked. Refuses where either is not live. */
export async function pair(trx: Knex, keep: number, merge: number, lock: boolean): Promise<[Row, Row]> {
  if (keep === merge) throw new Refused('A record cannot be merged into itself.')
  const ids = [keep, merge].filter(Number.isSafeInteger)
  if (lock) await lockPeople(trx, ids)
  const rows: Row[] = await peopleWithOrganisation(trx, ids)
  const of = (id: number) => {
    const row = rows.find((r) => r.id === id)
    if (row?.state !== 'live') throw new Refused('One of the two is not in the directory any more.', 'not found')
    return row
  }
  return [of(keep), of(merge)]
}

const partsOf = ({ street, town, postcode }: PostalParts): PostalParts => ({ street, town, postcode })

/** What is empty on the record that is kept and known on the other. */
export function filled(kept: Row, merged: Row): { field: string; column: string; after: string }[] {
  const own = FIELDS.flatMap((column) =>
    kept[column] === null && merged[column] !== null
      ? [{ field: LABEL[column], column: column as string, after: merged[column] as string }]
      : [],
  )
  const fresh = merged.tags.filter((tag) => !kept.tags.includes(tag))
  return [
    ...own,
    ...(kept.organisation_id === null && merged.organisation_id !== null
      ? [{ field: 'organisation', column: 'organisation_id', after: merged.organisation ?? '' }]
      : []),
    ...(postalText(kept) === '' && postalText(merged) !== '' ? [{ field: 'post', column: 'post', after: postalText(merged) }] : []),
    ...Object.entries(merged.custom).flatMap(([id, after]) =>
      kept.custom[id] === undefined ? [{ field: customKey(Number(id)), column: customKey(Number(id)), after }] : [],
    ),
    ...(fresh.length > 0 ? [{ field: 'tags', column: 'tags', after: [...kept.tags, ...fresh].join(', ') }] : []),
  ]
}

/**
 * Merges one record into another: a pointer is set and nothing of the ledger is rewritten. The one that is kept takes
 * over what it lacks; contacts, suppressions, rounds and batches of the other count as its own from then on. Frozen
 * rounds keep their records.
 */
export async function mergePeople(actor: Actor, keep: number, merge: number): Promise<void> {
  await db().transaction((trx) => mergeIn(trx, actor, keep, merge))
}

/** What a record has in a column, a field of the team's own among them. */
export function valueIn(row: { custom: CustomValues }, column: string): unknown {
  const id = customIdOf(column)
  return id === null ? row[column as keyof typeof row] : row.custom[id]
}

/** Columns as the table has them: fields of the team's own go into the one that holds them, without those that are null. */
export function plainColumns(columns: Record<string, unknown>, custom: CustomValues): Record<string, unknown> {
  const own = Object.entries(columns).filter(([column]) => customIdOf(column) !== null)
  const others = Object.fromEntries(Object.entries(columns).filter(([column]) => customIdOf(column) === null))
  if (own.length === 0) return others
  const all = { ...custom, ...Object.fromEntries(own.map(([column, value]) => [customIdOf(column), value])) }
  return {
    ...others,
    custom: JSON.stringify(Object.fromEntries(Object.entries(all).filter(([, value]) => value !== null && value !== undefined))),
  }
}

/** The same within the caller's transaction. */
export async function mergeIn(trx: Knex, actor: Actor, keep: number, merge: number): Promise<void> {
  mustCoordinate(actor, 'Merging records')
  const at = await passGate(trx)
  const [kept, merged] = await pair(trx, keep, merge, true)
  const taken = filled(kept, merged)
  const columns: Record<string, unknown> = {}
  for (const { column } of taken) {
    if (column === 'post')
      Object.assign(columns, { street: merged.street, town: merged.town, postcode: merged.postcode, address_key: merged.address_key })
    else if (column === 'tags') columns.tags = [...new Set([...kept.tags, ...merged.tags])]
    else columns[column] = valueIn(merged, column)
  }
  await updateMerged(trx, merge, keep)
  const carried = await carryMerged(trx, merge, keep)
  // The one that is kept is written in any case, so that whoever follows the directory reads it anew.
  await updateFacts(trx, plainColumns(columns, kept.custom), keep, kept.name)
  const post = taken.some((t) => t.column === 'post') ? { before: await postOf(trx, keep), after: partsOf(merged) } : null
  if (post) await writePost(trx, keep, (post.after = postalFor(post.after, post.before)))
  const moved = await moveAddresses(trx, keep, merge)
  const change = (field: string, before: string | null, after: string): NewEntry => ({
    person: keep,
    kind: 'change',
    field,
    before,
    after,
    at,
    actor: actor.id,
  })
  await writeEntries(
    trx,
    [
      { person: merge, kind: 'merged', at, actor: actor.id, note: `into ${kept.name}` },
      { person: keep, kind: 'merged', at, actor: actor.id, note: `took in ${merged.name}` },
      ...taken.map((t) =>
        change(
          t.field,
          t.column === 'tags' ? kept.tags.join(', ') : t.column === 'post' && post?.before ? postalText(post.before) : null,
          t.column === 'post' && post ? postalText(post.after) : t.after,
        ),
      ),
      ...(taken.some((t) => t.column === 'post')
        ? [
            ...(merged.town ? [change('town', null, merged.town)] : []),
            ...(merged.postcode ? [change('postcode', null, merged.postcode)] : []),
          ]
        : []),
      ...moved.map((a: { channel: string; value: string }) => change(a.channel, null, a.value)),
    ],
    at,
  )
  await insertMerge(trx, {
    taken: JSON.stringify([
      ...Object.entries(columns).map(([column, after]) => ({ column, before: valueIn(kept, column) ?? null, after })),
      ...(post ? [{ column: 'post', ...post }] : []),
    ]),
    addresses: moved.map((a: { id: number }) => a.id),
    carried: carried.map((p: { id: number }) => p.id),
    keep,
    merge,
    at,
    actorId: actor.id,
  })
  await refigure(trx, keep, merge)
  // What one of them asked for holds for both from now on, for what rounds are still to do as well.
  await stopContacts(trx, await suppressionsTouching(trx, [keep, merge]), () => actor.id, at)
  await spareSteps(trx, [keep, merge], at)
}
