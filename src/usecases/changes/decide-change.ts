import { customIdOf } from '@/core/clean/custom'
import { cleanOrganisation } from '@/core/clean/organisation'
import { type PostalParts, whyNotPostable } from '@/core/clean/postal'
import { RELATIONS } from '@/core/records/relations'
import { lockChange, writeAct } from '@/db/changes/act-rows'
import {
  emailsOfOld,
  insertDecision,
  lockForMove,
  type Moved,
  organisationCalled,
  reportedChange,
  samePostal,
  updateMoved,
} from '@/db/changes/decide-rows'
import { db, type Knex } from '@/db/connection'
import { postalText, postOf, writePost } from '@/db/directory/postal-rows'
import { type NewEntry, writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { writeSuppressions } from '@/usecases/screening/suppress-people'
import { type Actor, Refused } from '@/usecases/team/actor'

/** What confirming a change did besides setting the record. */
export interface Decided {
  /** Emails at the old organisation that are closed now. */
  closed: string[]
}

/**
 * Confirms a change that was reported of a person, so that the record says it from now on, or turns it down. Somebody who left keeps
 * their record: the role and organisation go by entries, and emails at the old organisation are closed by a suppression, which can be
 * lifted. Throws Refused where the change was settled already, or cannot be set by itself.
 */
export async function decideChange(actor: Actor, id: number, decision: 'confirm' | 'turn down'): Promise<Decided> {
  return db().transaction(async (trx) => {
    const at = await passGate(trx)
    const change = await lockChange(trx, id)
    const reported = await reportedChange(trx, id)
    if (!change || !reported) throw new Refused('This change does not exist.', 'not found')
    if (change.gone_at !== null) throw new Refused('This change no longer counts. Nothing was changed.')
    if (change.state === 'handled' || change.state === 'set aside')
      throw new Refused(`${change.by ?? 'A former colleague'} has settled this already. Open it again first.`)
    if (change.state === 'taken' && change.state_by !== actor.id)
      throw new Refused(`${change.by ?? 'A former colleague'} has taken this. Ask them first, or have it let go.`)
    if (decision === 'turn down') {
      await writeAct(trx, id, 'set aside', 'set aside', actor.id, at)
      return { closed: [] }
    }
    if (reported.person_id === null || reported.field === null || reported.entry_kind !== 'reported')
      throw new Refused('There is nothing to set on the record. Say Done instead.')
    const person = await lockForMove(trx, reported.person_id)
    if (!person) throw new Refused('This person is no longer in the directory.', 'not found')
    const { entries, closed } = await setField(trx, actor, person, reported.field, reported.after, at)
    await insertDecision(trx, {
      change_id: id,
      actor_id: actor.id,
      at,
      entries: await writeEntries(trx, entries, at),
      suppressions: closed.ids,
    })
    await writeAct(trx, id, 'handle', 'handled', actor.id, at)
    return { closed: closed.emails }
  })
}

/** Emails that were closed, with the suppressions that close them. */
interface Closed {
  emails: string[]
  ids: number[]
}
const NOTHING: Closed = { emails: [], ids: [] }

async function setField(
  trx: Knex,
  actor: Actor,
  person: Moved,
  field: string,
  after: string | null,
  at: Date,
): Promise<{ entries: NewEntry[]; closed: Closed }> {
  const entries: NewEntry[] = []
  const change = (name: string, before: string | null, next: string | null) => {
    if (before !== next) entries.push({ person: person.id, kind: 'change', field: name, before, after: next, at, actor: actor.id })
  }
  let closed = NOTHING
  const custom = customIdOf(field)
  if (field === 'organisation') closed = await move(trx, actor, person, after, change, at)
  else if (custom !== null) {
    change(field, person.custom[custom] ?? null, after)
    await updateMoved(trx, person.id, { custom: JSON.stringify({ ...person.custom, [custom]: after }) })
  } else if (field === 'role' || field === 'county' || field === 'relation') {
    if (field === 'relation' && !(RELATIONS as readonly (string | null)[]).includes(after))
      throw new Refused(`“${after ?? ''}” is not a relation to us. Nothing was changed.`)
    change(field, person[field], after)
    await updateMoved(trx, person.id, { [field]: after })
  } else throw new Refused('This field cannot be set from here. Open the record, then say Done.')
  return { entries, closed }
}

/** Moves somebody to another organisation, or to none: their role at the old one ends, and what reached them there is closed. */
async function move(
  trx: Knex,
  actor: Actor,
  person: Moved,
  to: string | null,
  change: (field: string, before: string | null, after: string | null) => void,
  at: Date,
): Promise<Closed> {
  const name = to === null ? null : cleanOrganisation(to)
  const old = person.organisation
  const next = name === null ? null : await organisationCalled(trx, name, at)
  if (next !== null && next.id === old?.id) return NOTHING
  change('organisation', old?.name ?? null, next?.name ?? null)
  if (next === null) change('role', person.role, null)
  await updateMoved(trx, person.id, { organisation_id: next?.id ?? null, ...(next === null ? { role: null } : {}) })
  if (!old) return NOTHING
  await movePost(trx, person, old, next, change)
  const emails = await emailsOfOld(trx, person.id, old.id, old.website)
  const ids = await writeSuppressions(
    trx,
    emails.map((email) => ({
      of: { email },
      reason: 'deceased or moved' as const,
      channels: ['email' as const],
      since: null,
      until: null,
      word: next === null ? `left ${old.name}` : `left ${old.name} for ${next.name}`,
      actor: actor.id,
    })),
  )
  return { emails, ids }
}

/** Letters that went to the old organisation go to the new one, or to nobody. */
async function movePost(
  trx: Knex,
  person: Moved,
  old: PostalParts,
  next: PostalParts | null,
  change: (field: string, before: string | null, after: string | null) => void,
): Promise<void> {
  const now = await postOf(trx, person.id)
  if (!now || !samePostal(now, old)) return
  const own = whyNotPostable(person) === null && !samePostal(person, old) ? person : null
  const to = own ?? (next && whyNotPostable(next) === null ? next : null)
  change('post', postalText(now) || null, to && postalText(to))
  await writePost(trx, person.id, to && { street: to.street, town: to.town, postcode: to.postcode })
}
