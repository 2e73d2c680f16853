import type { PolicyPage } from '@/core/views/policy-views'
import { firstPolicy } from '@/core/screening/rules'
import { db } from '@/db/connection'
import { editionRows, listsByPolicy } from '@/db/screening/policies'
import { withRegister } from '@/db/screening/let-through'
import { settings } from '@/runtime/settings'
import { type Actor, mayCoordinate } from '@/usecases/team/actor'
import { listIndex } from '@/usecases/lists/list-index'
import { policyFor } from './policy-for'
import { momentNow } from './screening-now'

/** A policy with its editions, the lists it screens and those it can be tried on. */
export async function openPolicy(actor: Actor, id: number): Promise<PolicyPage> {
  const policy = await policyFor(id)
  const editions = await editionRows(db(), id)
  const seen = (await listIndex(actor)).filter((list) => list.subject === 'person')
  const chose = new Set((await listsByPolicy(db(), id)).map((list) => list.id))
  const { asOf, zone } = momentNow(settings().ARCH_ZONE)
  const register = (await withRegister(firstPolicy())).find((rule) => rule.kind === 'register')
  return {
    id,
    name: policy.name,
    isDefault: policy.is_default,
    archived: policy.archived_at !== null,
    mayEdit: mayCoordinate(actor) && policy.archived_at === null,
    editions: editions.map(({ number, saved_at, by, why, rules }) => ({ number, at: saved_at.toISOString(), by, why, rules })),
    lists: seen.filter((list) => chose.has(list.id)).map(({ id: list, name }) => ({ id: list, name })),
    tryOn: seen.map(({ id: list, name }) => ({ id: list, name })),
    moment: { asOf, zone },
    register: { version: register?.version ?? null, goodFor: register?.goodFor ?? 31 },
  }
}
