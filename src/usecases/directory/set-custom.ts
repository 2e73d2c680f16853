import { cleanCustom, customKey } from '@/core/clean/custom'
import { squeeze } from '@/core/clean/name'
import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import { customFields } from '@/db/directory/custom-fields'
import { lockCustom, updateCustom } from '@/db/directory/person-rows'

/** Sets a field of somebody, or empties it. */
export async function setCustom(actor: Actor, person: number, id: number, raw: string): Promise<void> {
  await db().transaction(async (trx) => {
    const field = (await customFields(trx)).find((f) => f.id === id)
    const row = await lockCustom(trx, person)
    if (!field || !row) throw new Refused('There is no such field, or this person is no longer in the directory.', 'not found')
    const value = cleanCustom(field, String(raw).slice(0, 4000))
    if (value === undefined) throw new Refused(`“${squeeze(raw)}” cannot be a value of ${field.name}.`)
    const before: string | null = row.custom[id] ?? null
    if (value === before) return
    const { [id]: _, ...others } = row.custom
    await updateCustom(trx, person, value, others, id)
    await writeEntries(trx, [{ person, kind: 'change', field: customKey(id), before, after: value, at: now(), actor: actor.id }], now())
  })
}
