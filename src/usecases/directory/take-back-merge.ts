import { spareSteps, unspareSteps } from '@/db/rounds/contacts-to-come'
import type { PostalParts } from '@/core/clean/postal'
import type { PartedAccount } from '@/core/views/record-views'
import { db } from '@/db/connection'
import { type NewEntry, writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { fieldWords } from './custom-fields'
import { plainColumns, valueIn } from './merge-people'
import { postalText, writePost } from '@/db/directory/postal-rows'
import { decideDifferent } from '@/db/directory/likenesses'
import { carryBack, lockMerge, lockPair, moveAddressesBack, refigure, updateLive, updateTakenBack } from '@/db/directory/merge-rows'
import { organisationName } from '@/db/directory/organisation-rows'
import { personRow, updateFacts } from '@/db/directory/person-rows'

interface Taken {
  column: string
  before: unknown
  after: unknown
}

const LABEL: Record<string, string> = { outside_id: 'outside id', organisation_id: 'organisation' }
/** Columns that stand in the ledger as the one address they make up. */
const POSTAL = ['street', 'town', 'postcode', 'address_key']

/**
 * Takes a merge back: the other record is in the directory again, with its own addresses, contacts and suppressions; what
 * the kept one took over goes back to what it was, unless it was changed since. What was written to the kept record in the
 * meantime stays its own. Throws Refused where the record is not merged, or the kept one was merged itself since.
 */
export async function takeBackMerge(actor: Actor, merged: number): Promise<PartedAccount> {
  mustCoordinate(actor, 'Taking a merge back')
  return db().transaction(async (trx) => {
    const at = await passGate(trx)
    const merge = await lockMerge(trx, merged)
    if (!merge) throw new Refused('This record was not merged, or was merged before merges could be taken back.', 'not found')
    const { keep_id: keep, carried, addresses } = merge
    await lockPair(trx, keep, merged)
    const [kept, other] = [await personRow(trx, keep), await personRow(trx, merged)]
    if (kept.state !== 'live')
      throw new Refused(
        `${kept.name} was ${kept.state === 'merged' ? 'merged into another record' : 'withdrawn'} since. Take that back first.`,
      )
    const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null)
    const taken = (merge.taken as Taken[]).filter((t) => t.column !== 'post')
    const post = (merge.taken as Taken[]).find((t) => t.column === 'post') as { before: PostalParts | null } | undefined
    const postal = taken.filter((t) => POSTAL.includes(t.column))
    // An address goes back as a whole or not at all.
    const postalStays = postal.some((t) => !same(kept[t.column], t.after))
    const goes = taken.filter((t) => (POSTAL.includes(t.column) ? !postalStays : same(valueIn(kept, t.column), t.after)))
    const stays = taken.filter((t) => !goes.includes(t) && !(POSTAL.includes(t.column) && t.column !== 'street'))

    // First what was taken over goes, an outside id among it, which only one in the directory may have.
    await updateFacts(trx, plainColumns(Object.fromEntries(goes.map((t) => [t.column, t.before])), kept.custom), keep, kept.name)
    await updateLive(trx, merged)
    if (carried.length > 0) await carryBack(trx, carried, keep, merged)
    if (postal.length > 0 && !postalStays) await writePost(trx, keep, post?.before ?? null)
    const moved = addresses.length > 0 ? await moveAddressesBack(trx, addresses, keep, merged) : []

    const organisation = async (id: unknown) => (id ? ((await organisationName(trx, id as number))?.name ?? null) : null)
    const text = async (t: Taken, value: unknown): Promise<string | null> =>
      t.column === 'organisation_id' ? organisation(value) : Array.isArray(value) ? value.join(', ') : ((value as string | null) ?? null)
    const changes: NewEntry[] = []
    const change = (field: string, before: string | null, after: string | null) =>
      changes.push({ person: keep, kind: 'change', field, before, after, at, actor: actor.id })
    for (const t of goes)
      if (!POSTAL.includes(t.column)) change(LABEL[t.column] ?? t.column, await text(t, t.after), await text(t, t.before))
    if (postal.length > 0 && !postalStays) {
      change('post', postalText(kept), post?.before ? postalText(post.before) : null)
      for (const field of ['town', 'postcode'] as const) if (kept[field]) change(field, kept[field], null)
    }
    for (const a of moved) change(a.channel, a.value, null)
    await writeEntries(
      trx,
      [
        { person: merged, kind: 'parted', at, actor: actor.id, note: `stands apart from ${kept.name} again` },
        { person: keep, kind: 'parted', at, actor: actor.id, note: `${other.name} stands apart again` },
        ...changes,
      ],
      at,
    )
    await updateTakenBack(trx, merge, at, actor.id)
    await decideDifferent(trx, keep, merged, actor.id, at)
    await refigure(trx, keep, merged)
    // What one of them answered spares the other nothing any more.
    await unspareSteps(trx, [keep, merged])
    await spareSteps(trx, [keep, merged], at)
    const { name: named } = await fieldWords(trx)
    return {
      stays: await Promise.all(
        stays.map(async (t) => ({
          field: POSTAL.includes(t.column) ? 'address' : named(LABEL[t.column] ?? t.column),
          now: POSTAL.includes(t.column) ? postalText(kept) : ((await text(t, valueIn(kept, t.column))) ?? 'nothing'),
        })),
      ),
    }
  })
}
