import { randomBytes } from 'node:crypto'
import { type Subject, SUBJECT_NAMES } from '@/core/columns/subject'
import { type Line, subjectOf, validLines } from '@/core/lists/line'
import { allows, type ListRole } from '@/core/lists/roles'
import { LONGEST_NAME } from '@/core/lists/naming'
import type { ListIndexRow, ListView } from '@/core/views/list-views'
import { db, type Knex } from '@/db/connection'
import { holdNames } from '@/db/locks'
import { askEngine, EngineAway } from '@/engine/client'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from '@/usecases/team/actor'
import { checkNames, expanded, namedBy, withLastRounds } from './named-lists'
import { settleHeld } from './proposals'
import { holdParts } from './line-parts'
import { momentNow } from '@/usecases/screening/screening-now'
import { withTrueNames } from './true-names'

export interface ListRow {
  id: number
  name: string
  subject: Subject
  labels: string[]
  archived_at: Date | null
  owner_id: string
  /** What everybody of the team may do with it; null: nothing. */
  team_role: ListRole | null
  shared: boolean
  zone: string
  /** What the person who asks may do with it. */
  role: ListRole
}

export interface EditionRow {
  id: number
  list_id: number
  number: number
  lines: Line[]
  balance: number | null
  saved_by: string
  saved_at: Date
}

const NEEDED: Record<ListRole, string> = { see: 'see it', use: 'use it', edit: 'edit it' }

/** A list with which this person may do what is needed. One they may not see is as good as none. */
export async function listFor(actor: Actor, id: number, needs: ListRole = 'see', trx: Knex = db(), lock = false): Promise<ListRow> {
  const query = trx('list')
    .where({ id })
    .whereNull('deleted_at')
    .select('list.*', trx.raw('role_on(list, ?) as role', [actor.id]))
    .first()
  const list: ListRow | undefined = Number.isSafeInteger(id) ? await (lock ? query.forNoKeyUpdate() : query) : undefined
  if (!list?.role) throw new Refused('There is no such list, or it is private to somebody else.', 'not found')
  if (!allows(list.role, needs))
    throw new Refused(`You may look at “${list.name}”, not ${NEEDED[needs]}. Its owner decides who may.`, 'not allowed')
  return list
}

/** Whether somebody may see a list that stands in a query under some name. */
export const seenBy = (list: string) => `role_on(${list}, ?) is not null`

export async function latestEdition(list: number, trx: Knex = db()): Promise<EditionRow> {
  return trx('edition').where({ list_id: list }).orderBy('number', 'desc').first()
}

/** A list with its latest edition, and the draft this person left of it. */
export async function openList(actor: Actor, id: number): Promise<ListView> {
  const list = await listFor(actor, id)
  const edition = await latestEdition(id)
  const draft = await db()('list_draft').where({ list_id: id, user_id: actor.id }).first('based_on', 'lines')
  const names = new Map(
    (await db()('user').whereIn('id', [list.owner_id, edition.saved_by]).select('id', 'name')).map((u) => [u.id, u.name]),
  )
  return {
    id: list.id,
    name: list.name,
    shared: list.shared,
    role: list.role,
    labels: list.labels,
    archived: list.archived_at !== null,
    pinned: (await db()('list_pin').where({ list_id: id, user_id: actor.id }).first('list_id')) !== undefined,
    mine: list.owner_id === actor.id,
    owner: names.get(list.owner_id) ?? '',
    edition: edition.number,
    savedBy: names.get(edition.saved_by) ?? '',
    savedAt: edition.saved_at.toISOString(),
    lines: edition.lines,
    draft: draft
      ? {
          basedOn: draft.based_on,
          lines: draft.lines,
          basis: draft.based_on === edition.number ? edition.lines : await linesOfEdition(id, draft.based_on),
        }
      : null,
  }
}

/** The lines of one edition of a list. */
export async function linesOfEdition(list: number, number: number): Promise<Line[]> {
  const edition = await db()('edition').where({ list_id: list, number }).first('lines')
  if (!edition) throw new Refused(`There is no edition ${number} of this list.`, 'not found')
  return edition.lines
}

/** Every list this person may see, with how many it held when it was saved and its last round. */
export async function listIndex(actor: Actor): Promise<ListIndexRow[]> {
  const { rows } = await db().raw(
    `select l.id, l.name, l.subject, l.labels, l.archived_at is not null as archived, exists (select 1 from list_pin t where t.list_id = l.id and t.user_id = ?) as pinned, l.shared, role_on(l, ?) as role, l.owner_id = ? as mine, u.name as owner,
       (select count(*) from list_proposal p where p.list_id = l.id and p.decision is null)::int as proposals,
       exists (select 1 from list_draft d where d.list_id = l.id and d.user_id = ?) as draft,
       e.number as edition, e.saved_at, e.balance,
       r.id as round_id, r.number as round, r.started_at, r.released_at, r.closed_at
     from list l join lateral (select * from edition where list_id = l.id order by number desc limit 1) e on true
     left join lateral (select * from round where list_id = l.id order by number desc limit 1) r on true
     left join "user" u on u.id = l.owner_id
     where l.deleted_at is null and ${seenBy('l')} order by pinned desc, l.name, l.id`,
    [actor.id, actor.id, actor.id, actor.id, actor.id],
  )
  return rows.map(
    (row: Record<string, never> & { saved_at: Date; started_at: Date; released_at: Date | null; closed_at: Date | null }) => ({
      id: row.id,
      name: row.name,
      subject: row.subject,
      labels: row.labels,
      archived: row.archived,
      pinned: row.pinned,
      shared: row.shared,
      role: row.role,
      proposals: row.proposals,
      draft: row.draft,
      mine: row.mine,
      owner: row.owner,
      edition: row.edition,
      savedAt: row.saved_at.toISOString(),
      balance: row.balance,
      lastRound: row.round_id
        ? {
            id: row.round_id,
            number: row.round,
            state: row.closed_at ? 'closed' : row.released_at ? 'released' : 'being built',
            at: (row.closed_at ?? row.released_at ?? row.started_at).toISOString(),
          }
        : null,
    }),
  )
}

/** Lists that lines of a list may name: every other one this person may use, with how many editions and rounds it has. */
export async function nameableLists(
  actor: Actor,
  except: number,
): Promise<{ id: number; name: string; shared: boolean; subject: Subject; edition: number; rounds: number }[]> {
  return db()('list as l')
    .whereNull('l.deleted_at')
    .whereNot('l.id', except)
    .whereRaw(`role_on(l, ?) >= 'use'`, [actor.id])
    .orderBy('l.name')
    .select('l.id', 'l.name', 'l.shared', 'l.subject')
    .select(db().raw('(select max(number) from edition where list_id = l.id) as edition'))
    .select(db().raw('coalesce((select max(number) from round where list_id = l.id and released_at is not null), 0) as rounds'))
}

function checkedName(name: string): string {
  const trimmed = name.trim().replace(/\s+/g, ' ')
  if (trimmed === '' || trimmed.length > LONGEST_NAME) throw new Refused(`Give the list a name of 1 to ${LONGEST_NAME} characters.`)
  return trimmed
}

/** A new list with its first edition: everyone in the directory, or some lines. */
export async function createList(actor: Actor, name: string, shared: boolean, lines: Line[] = [startLine()]): Promise<number> {
  const checked = validPage(lines)
  return db().transaction(async (trx) => {
    const [{ id }] = await trx('list').insert(
      {
        name: checkedName(name),
        subject: subjectOf(checked),
        owner_id: actor.id,
        team_role: shared ? 'edit' : null,
        zone: settings().ARCH_ZONE,
        created_at: now(),
      },
      'id',
    )
    await checkNames(actor, id, checked, [], trx)
    await insertEdition(trx, actor, id, 1, checked)
    return id
  })
}

export const startLine = (subject: Subject = 'person'): Line => ({
  id: randomBytes(5).toString('hex'),
  verb: 'start',
  off: false,
  batch: null,
  ...(subject === 'person' ? {} : { subject }),
})

/** Saves the lines of an earlier edition as the newest one. Gives its number. */
export async function goBackTo(actor: Actor, id: number, number: number): Promise<number> {
  const lines = await linesOfEdition(id, number)
  const { number: newest } = await latestEdition((await listFor(actor, id, 'edit')).id)
  const saved = await saveEdition(actor, id, newest, lines, { why: `back to edition ${number}`, draft: 'stays' })
  if ('theirs' in saved)
    throw new Refused(`${saved.theirs.by} saved edition ${saved.theirs.edition} just now. Look at it first; nothing was changed.`)
  return saved.edition
}

export interface Saving {
  why?: string
  /** Whether what this person worked on ends with it: it stays where the lines are not theirs. */
  draft?: 'ends' | 'stays'
  /** The proposal the lines come from, which must still wait. */
  taking?: number
}

/** What comes of saving: the number of the new edition, or what somebody else saved in the meantime. */
export type Saved = { edition: number } | { theirs: { edition: number; by: string; lines: Line[]; basis: Line[] } }

/**
 * Saves lines as the next edition. `basedOn` is the edition they were worked on from: where somebody saved another one
 * since, nothing is written and theirs comes back, with the lines both began from.
 */
export async function saveEdition(
  actor: Actor,
  id: number,
  basedOn: number,
  lines: unknown,
  { why = '', draft = 'ends', taking }: Saving = {},
): Promise<Saved> {
  const checked = validPage(lines)
  return db().transaction(async (trx) => {
    await listFor(actor, id, 'edit', trx, true)
    const latest = await latestEdition(id, trx)
    if (latest.number !== basedOn) {
      const by = await trx('user').where({ id: latest.saved_by }).first('name')
      return {
        theirs: { edition: latest.number, by: by?.name ?? 'Somebody', lines: latest.lines, basis: await linesOfEdition(id, basedOn) },
      }
    }
    if (subjectOf(checked) !== subjectOf(latest.lines))
      throw new Refused(
        `This is a list of ${SUBJECT_NAMES[subjectOf(latest.lines)]} and stays one. Make another list for ${SUBJECT_NAMES[subjectOf(checked)]}.`,
      )
    await checkNames(actor, id, checked, latest.lines, trx)
    await insertEdition(trx, actor, id, latest.number + 1, checked, why)
    await settleHeld(trx, actor, id, latest.number + 1, checked, taking)
    if (draft === 'ends') await trx('list_draft').where({ list_id: id, user_id: actor.id }).delete()
    return { edition: latest.number + 1 }
  })
}

/** Lines from outside, checked. Throws Refused. */
export function validPage(lines: unknown): Line[] {
  try {
    return validLines(lines)
  } catch (error) {
    throw new Refused(`The list cannot be saved: ${(error as Error).message}.`)
  }
}

async function insertEdition(trx: Knex, actor: Actor, list: number, number: number, lines: Line[], why = ''): Promise<void> {
  const standing =
    (
      await trx('edition')
        .where({ list_id: list, number: number - 1 })
        .first('lines')
    )?.lines ?? []
  const signed = await withTrueNames(
    actor,
    lines.map((line) => signedLine(line, actor)),
    standing,
    trx,
  )
  await holdParts(trx, list, signed)
  const zone = (await trx('list').where({ id: list }).first('zone')).zone
  await trx('edition').insert({
    list_id: list,
    number,
    lines: JSON.stringify(signed),
    balance: await balanceOf(signed, zone, trx),
    why: why.trim().slice(0, 200) || null,
    saved_by: actor.id,
    saved_at: now(),
  })
}

/** *By me* is the person who saves the line (or works on it), by name. */
export function signedLine(line: Line, actor: Actor): Line {
  if (
    !('criterion' in line) ||
    (line.criterion.kind !== 'contacted' && line.criterion.kind !== 'contact-count') ||
    line.criterion.by?.id !== 'me'
  )
    return line
  return { ...line, criterion: { ...line.criterion, by: { id: actor.id, name: actor.name } } as typeof line.criterion }
}

async function balanceOf(lines: Line[], zone: string, trx: Knex): Promise<number | null> {
  try {
    const page = await expanded(lines, {}, trx)
    const moment = await withLastRounds(momentNow(zone), [page], trx)
    const answer = await askEngine('list', { lines, named: page.named, moment, view: { tab: 'on' }, page: { offset: 0, limit: 0 } })
    return answer.figures.totals.balance
  } catch (error) {
    if (error instanceof EngineAway) return null
    throw error
  }
}

/** A copy of a list this person may see, as their own. */
export async function copyList(actor: Actor, id: number): Promise<number> {
  const list = await listFor(actor, id, 'use')
  const { lines } = await latestEdition(id)
  return createList(actor, `${list.name}, copy`.slice(0, 120), false, lines)
}

export async function renameList(actor: Actor, id: number, name: string): Promise<void> {
  const list = await ownList(actor, id, 'rename it')
  await db()('list')
    .where({ id: list.id })
    .update({ name: checkedName(name) })
}

/**
 * Takes a list away. Its editions and rounds stay in the database; only its owner may, and another's never. What it is decided
 * on is read under the lock of the list, which a release holds to its end, and of which list names which.
 */
export async function deleteList(actor: Actor, id: number): Promise<void> {
  await db().transaction(async (trx) => {
    const list = await ownList(actor, id, 'delete it', trx, true)
    await holdNames(trx)
    const open = await trx('round').where({ list_id: id }).whereNotNull('released_at').whereNull('closed_at').first('number')
    if (open) throw new Refused(`Round ${open.number} of this list is out. Close it before the list is deleted.`)
    const by = await namedBy(id, trx)
    if (by.length > 0) {
      const seen = await trx('list')
        .whereIn(
          'id',
          by.map((l) => l.id),
        )
        .whereRaw('role_on(list, ?) is not null', [actor.id])
        .orderBy('name')
        .first('name')
      throw new Refused(`${seen ? `“${seen.name}”` : 'A private list'} names this list. Take that line away before this one is deleted.`)
    }
    const used = await trx('round').where({ list_id: id }).whereNotNull('released_at').first('number')
    if (used)
      throw new Refused(
        `Round ${used.number} went out to this list, so it stays: archive it instead. What was released can be had again from it.`,
      )
    await trx('list').where({ id: list.id }).update({ deleted_at: now() })
    await trx('list_in_hand').where({ list_id: list.id }).delete()
  })
}

/** Puts a list away, or takes it out again: it stands apart in the index, and all that names it goes on. */
export async function archiveList(actor: Actor, id: number, away: boolean): Promise<void> {
  await db().transaction(async (trx) => {
    const list = await ownList(actor, id, away ? 'archive it' : 'take it out of the archive', trx, true)
    const open = await trx('round').where({ list_id: id }).whereNull('closed_at').first('number')
    if (away && open) throw new Refused(`Round ${open.number} of this list is not closed. Close it before the list is archived.`)
    await trx('list')
      .where({ id: list.id })
      .update({ archived_at: away ? now() : null })
    if (away) await trx('list_in_hand').where({ list_id: list.id }).delete()
  })
}

/** Keeps a list at the top of this person's own index, or no longer. */
export async function pinList(actor: Actor, id: number, top: boolean): Promise<void> {
  await listFor(actor, id)
  if (top) await db()('list_pin').insert({ list_id: id, user_id: actor.id }).onConflict(['list_id', 'user_id']).ignore()
  else await db()('list_pin').where({ list_id: id, user_id: actor.id }).delete()
}

/** Files a list under some labels, which everybody who sees it sees. */
export async function labelList(actor: Actor, id: number, labels: readonly string[]): Promise<void> {
  const list = await ownList(actor, id, 'label it')
  const clean = [
    ...new Map(
      labels
        .map((label) => String(label).trim().replace(/\s+/g, ' '))
        .filter(Boolean)
        .map((label) => [label.toLowerCase(), label]),
    ).values(),
  ]
  if (clean.length > 12 || clean.some((label) => label.length > 40))
    throw new Refused('A list has at most twelve labels of at most 40 letters.')
  await db()('list').where({ id: list.id }).update({ labels: clean })
}

/** Brings back a list its owner deleted. Returns its name. */
export async function restoreList(actor: Actor, id: number): Promise<string> {
  const [list] = await db()('list').where({ id, owner_id: actor.id }).whereNotNull('deleted_at').update({ deleted_at: null }, 'name')
  if (!list) throw new Refused('There is no deleted list of yours to bring back.', 'not found')
  return list.name
}

export async function ownList(actor: Actor, id: number, what: string, trx: Knex = db(), lock = false): Promise<ListRow> {
  const list = await listFor(actor, id, 'see', trx, lock)
  if (list.owner_id !== actor.id) throw new Refused(`This list is somebody else’s: only its owner can ${what}.`, 'not allowed')
  return list
}
