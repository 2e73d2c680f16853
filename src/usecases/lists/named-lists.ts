import type { PageOfLines } from '@/engine/protocol'
import { listKey } from '@/core/criteria/list'
import { SUBJECT_NAMES } from '@/core/records/subject'
import { questionsOf } from '@/core/criteria/registry'
import { criterionOf, type Line, subjectOf } from '@/core/lists/line'
import { allows } from '@/core/records/list-roles'
import { areasNamed, batchesNamed, listsNamed, type NamedLists, type Naming, roundsNamed, territoriesNamed } from '@/core/lists/named'
import { db, type Knex } from '@/db/connection'
import { holdNames } from '@/db/locks'
import type { Moment } from '@/core/criteria/kind'
import { type Actor, Refused } from '@/usecases/team/actor'
import { checkSets, readableParts } from './line-parts'
import { listName, listSeen, listsSeen, namedBy, othersSee, readerWithout, roleOn, teamRole, teamRoleAndName } from '@/db/lists/list-rows'
import { batchesSeen } from '@/db/intake/batch-rows'
import { areaOwners } from '@/db/lists/areas'
import { postcodesOf } from '@/db/team/territory-rows'
import { territoriesIn, withPostcodes } from '@/core/lists/territories'
import { lastReleased, type UsedEditions } from '@/db/rounds/round-rows'
import { latestLines } from '@/db/lists/editions'

/**
 * Lines with the lines of every list that they name, at any depth: the latest saved edition, or the one that is named,
 * or the one that was used when a round was frozen; and with the postcodes of the territories they name, as these stand. Throws Refused when a list that is named is gone.
 */
export async function expanded(lines: Line[], frozen: UsedEditions = {}, trx: Knex = db()): Promise<PageOfLines & { uses: UsedEditions }> {
  const named: Record<string, Line[]> = {}
  const uses: UsedEditions = {}
  let next = listsNamed(lines)
  while (next.length > 0) {
    const wanted = next.filter((c) => !Object.hasOwn(named, listKey(c)))
    next = []
    for (const criterion of wanted) {
      const key = listKey(criterion)
      if (Object.hasOwn(named, key)) continue
      const edition = await editionMeant(criterion, frozen[key] ?? null, trx)
      named[key] = edition.lines
      uses[key] = edition.number
      next.push(...listsNamed(edition.lines))
    }
  }
  const all = [...lines, ...Object.values(named).flat()]
  const postcodes = await postcodesOf(trx, territoriesIn(all))
  if (postcodes.size > 0) for (const [key, own] of Object.entries(named)) named[key] = withPostcodes(own, postcodes)
  return { lines: withPostcodes(lines, postcodes), named: named as NamedLists, uses }
}

async function editionMeant({ list, edition }: Naming, frozen: number | null, trx: Knex): Promise<{ lines: Line[]; number: number }> {
  const number = frozen ?? edition
  const found = await latestLines(trx, list.id, number)
  if (!found) throw new Refused(`The list “${list.name}”${number === null ? '' : `, edition ${number},`} that a line names does not exist.`)
  return found
}

/** The number of the last released round of each list that lines name with *the last round*, and when it was released. */
export async function withLastRounds<M extends Moment>(moment: M, pages: PageOfLines[], trx: Knex = db()): Promise<M> {
  const lists = pages
    .flatMap(({ lines, named }) => [lines, ...Object.values(named)])
    .flat()
    .flatMap((line) => {
      const criterion = criterionOf(line)
      return (criterion ? questionsOf(criterion) : []).flatMap((asked) => {
        if (asked.kind === 'round' && asked.which === 'last') return [asked.list.id]
        return 'since' in asked && asked.since ? [asked.since.id] : []
      })
    })
  if (lists.length === 0) return moment
  const rows = await lastReleased(trx, lists)
  return {
    ...moment,
    lastRounds: Object.fromEntries(rows.map((r) => [r.list_id, r.number])),
    releasedAt: Object.fromEntries(rows.map((r) => [r.list_id, r.at.getTime()])),
  }
}

/**
 * Whether a list may hold these lines: it must not name itself, however far away; whoever may see it must be able to see
 * the lists it names; nobody newly names what they may not use. `standing` are its lines so far, whose lists may be named
 * by anybody who edits it. Takes a lock to the end of the transaction, so that two lists cannot be saved into a loop at once.
 */
export async function checkNames(actor: Actor, list: number, lines: Line[], standing: Line[], trx: Knex): Promise<void> {
  const names = listsNamed(lines)
  await checkAreas(actor, await othersSee(list, trx), lines, trx)
  await checkSets(actor, lines, trx)
  const all = [...names.map((c) => c.list), ...roundsNamed(lines)]
  if (all.length === 0) return
  await holdNames(trx)
  const before = new Set([...listsNamed(standing).map((c) => c.list.id), ...roundsNamed(standing).map((l) => l.id)])
  for (const { id, name } of all) {
    const found = await roleOn(trx, id, actor.id)
    if (!found?.role) throw new Refused(`The list “${name}” that a line names does not exist, or is private to somebody else.`)
    if (!before.has(id) && !allows(found.role, 'use'))
      throw new Refused(`You may look at “${name}”, not name it in lines. Its owner decides who may.`)
    await checkReaders({ id: list }, { id, name }, trx)
  }
  for (const naming of names) {
    const { lines: own } = await editionMeant(naming, null, trx)
    const wanted = naming.of ?? subjectOf(lines)
    if (subjectOf(own) !== wanted)
      throw new Refused(
        `“${naming.list.name}” is a list of ${SUBJECT_NAMES[subjectOf(own)]}; the line asks for one of ${SUBJECT_NAMES[wanted]}.`,
      )
  }
  if (names.some((c) => c.list.id === list && c.edition === null)) throw new Refused('A list cannot name itself.')
  const { uses } = await expanded(lines, {}, trx)
  const own = listKey({ list: { id: list, name: '' }, edition: null })
  if (Object.hasOwn(uses, own))
    throw new Refused('These lines name a list that, by way of others, names this one: a loop. Nothing was saved.')
}

/** Refuses what a list's lines name where somebody who may see the list may not see that; after who may see it was changed. */
export async function checkSharing(actor: Actor, list: number, lines: Line[], trx: Knex): Promise<void> {
  await checkAreas(actor, await othersSee(list, trx), lines, trx)
  for (const named of [...listsNamed(lines).map((c) => c.list), ...roundsNamed(lines)]) await checkReaders({ id: list }, named, trx)
  for (const by of await namedBy(list, trx)) {
    const seen = await listSeen(trx, by.id, actor.id)
    await checkReaders(by, { id: list, name: (await listName(trx, list)).name }, trx, seen ? null : 'A private list of a colleague')
  }
}

/** Refuses that one list names another which somebody who may see the first may not see. */
async function checkReaders(
  list: { id: number },
  named: { id: number; name: string },
  trx: Knex,
  masked: string | null = null,
): Promise<void> {
  const [a, b] = [await teamRoleAndName(trx, list.id), await teamRole(trx, named.id)]
  // A list that whoever asks may not see is not called by its name.
  const cannot = `${masked ?? `“${a.name}”`} cannot name “${named.name}”, which`
  if (a.team_role !== null && b.team_role === null)
    throw new Refused(`${cannot} the team may not see: nobody could see why its numbers are what they are. Share that one first.`)
  const rows = await readerWithout(trx, list.id, named.id)
  if (rows.length > 0)
    throw new Refused(
      masked === null
        ? `${cannot} ${rows[0].name} may not see, though they may see this one. Share that one with them first.`
        : `${cannot} somebody may not see, though they may see that one. Its owner has to take the line away first.`,
    )
}

/** Refuses lines that name an area this person cannot see; a shared list may not name a private one. */
async function checkAreas(actor: Actor, shared: boolean | null, lines: Line[], trx: Knex): Promise<void> {
  const areas = areasNamed(lines)
  if (areas.length === 0) return
  const known: { id: number; shared: boolean; owner_id: string; named: boolean }[] = await areaOwners(
    trx,
    areas.map((a) => a.id),
  )
  const readable = await readableParts(
    actor,
    'area',
    areas.map((a) => a.id),
    trx,
  )
  for (const { id, name } of areas) {
    const found = known.find((area) => area.id === id)
    // One that was drawn for a line alone belongs to the lists it stands in.
    if (!found || !readable.has(id))
      throw new Refused(`The area “${name}” that a line names does not exist, or is private to somebody else.`)
    if (shared && found.named && !found.shared)
      throw new Refused(`A shared list cannot name the area “${name}”, which is private. Share the area first.`)
  }
}

/** Refuses lines that name a batch this person may not see. */
async function checkBatches(actor: Actor, lines: Line[]): Promise<void> {
  const ids = batchesNamed(lines).map(({ id }) => id)
  if (ids.length === 0) return
  const seen = await batchesSeen(db(), ids, actor.id)
  if (ids.some((id) => !seen.some((batch) => batch.id === id)))
    throw new Refused('A line names a batch that does not exist, or belongs to a list that is private to somebody else.', 'not found')
}

/** Refuses lines that name a territory that does not exist. */
async function checkTerritories(lines: Line[]): Promise<void> {
  const named = territoriesNamed(lines)
  const known = await postcodesOf(
    db(),
    named.map(({ id }) => id),
  )
  const missing = named.find(({ id }) => !known.has(id))
  if (missing) throw new Refused(`The territory “${missing.name}” that a line names does not exist.`, 'not found')
}

/** Refuses lines that name a list or an area this person cannot see. Editions of shared lists name only what everybody can. */
export async function checkSeen(actor: Actor, lines: Line[]): Promise<void> {
  await checkAreas(actor, null, lines, db())
  await checkSets(actor, lines)
  await checkBatches(actor, lines)
  await checkTerritories(lines)
  const lists = [...listsNamed(lines).map((naming) => naming.list), ...roundsNamed(lines)]
  if (lists.length === 0) return
  const seen = await listsSeen(
    db(),
    lists.map((l) => l.id),
    actor.id,
  )
  const hidden = lists.find((l) => !seen.some((s) => s.id === l.id))
  if (hidden) throw new Refused(`The list “${hidden.name}” that a line names does not exist, or is private to somebody else.`)
}
