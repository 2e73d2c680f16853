import type { ResultsView } from '@/core/views/result-views'
import { resultIds } from '@/usecases/rounds/round-results'
import type { These } from '@/core/views/these'
import { LONGEST_NAME } from '@/core/lists/naming'
import type { Level } from '@/core/clean/role'
import type { Criterion } from '@/core/criteria/registry'
import { type Line, subjectOf } from '@/core/lists/line'
import { type Subject, SUBJECT_NAMES } from '@/core/records/subject'
import { countText } from '@/core/text/written'
import { db } from '@/db/connection'
import { areaShapes } from '@/db/lists/areas'
import { territoryRows } from '@/db/team/territory-rows'
import { latestEdition } from '@/db/lists/list-rows'
import { firstNames, insertPickSet } from '@/db/lists/pick-sets'
import { batchFor } from '@/usecases/intake/batch-for'
import { enquiryFor } from '@/usecases/sources/enquiries'
import { type Actor, Refused } from '@/usecases/team/actor'
import { createList, startLine } from './create-list'
import { listFor } from './open-list'
import { readableParts } from './line-parts'
import { checkPicked } from './list-in-hand'
import { foundIds, lineId } from './put-on-list'

/** Makes a private list of what somebody has before them, and gives its number. Throws Refused where that is nothing, or too much. */
export async function listOfThese(actor: Actor, these: These): Promise<number> {
  const { name, lines } =
    'batch' in these || 'enquiry' in these
      ? await ofBatch(actor, these)
      : 'deciders' in these
        ? await ofDeciders(actor, these.deciders)
        : 'round' in these
          ? await ofResults(actor, these)
          : 'area' in these
            ? await ofArea(actor, these)
            : 'territory' in these
              ? await ofTerritory(these.territory)
              : await ofPicks(actor, these)
  return createList(actor, name.slice(0, LONGEST_NAME), false, lines)
}

async function ofBatch(actor: Actor, these: { batch: number } | { enquiry: number }): Promise<{ name: string; lines: Line[] }> {
  const id = 'batch' in these ? these.batch : (await enquiryFor(actor, these.enquiry)).batch_id
  if (id === null) throw new Refused('Nothing of this enquiry is in the directory yet. Import what was found first.')
  const { kind, file_name: name } = await batchFor(actor, id)
  if (kind !== 'people' && kind !== 'premises') throw new Refused('A list is made of a file of people or of premises.')
  const first = startLine(kind === 'people' ? 'person' : 'premises')
  return { name: `From ${name}`, lines: [{ ...first, batch: { id, name } } as Line] }
}

/** Whose role is at one of these levels decides. Common practice, no source. */
const DECIDES = ['owner or partner', 'chief', 'director', 'head'] as const satisfies readonly Level[]

async function ofDeciders(actor: Actor, id: number): Promise<{ name: string; lines: Line[] }> {
  const { name } = await listFor(actor, id, 'see')
  const { lines } = await latestEdition(id)
  if (subjectOf(lines) !== 'organisation') throw new Refused('Choose a list of organisations: people decide there.')
  const keep = (criterion: Criterion): Line => ({ id: lineId(), verb: 'keep', off: false, unknownAsYes: false, criterion })
  return {
    name: `Who decides at ${name}`,
    lines: [
      startLine('person'),
      keep({ kind: 'related', how: 'works at', list: { id, name }, role: [], metres: null }),
      keep({ kind: 'level', any: [...DECIDES] }),
    ],
  }
}

async function ofResults(
  actor: Actor,
  { round, results }: { round: number; results: ResultsView },
): Promise<{ name: string; lines: Line[] }> {
  const { name, ids } = await resultIds(actor, round, results)
  return { ...(await ofPicks(actor, { of: 'person', ids })), name }
}

async function ofArea(actor: Actor, { area: id, of }: { area: number; of: Subject }): Promise<{ name: string; lines: Line[] }> {
  const [area] = await areaShapes(db(), await readableParts(actor, 'area', [id]))
  if (!area) throw new Refused('There is no such area, or it is private to somebody else.', 'not found')
  const criterion = { kind: 'area' as const, areas: [{ id, name: area.name }] }
  return {
    name: `In ${area.name}`,
    lines: [startLine(of), { id: lineId(), verb: 'keep', off: false, unknownAsYes: false, criterion }],
  }
}

async function ofTerritory(id: number): Promise<{ name: string; lines: Line[] }> {
  const own = (await territoryRows(db())).find((territory) => territory.id === id)
  if (!own) throw new Refused('There is no such territory. Somebody may have removed it.', 'not found')
  const criterion = { kind: 'territory' as const, territories: [{ id, name: own.name }] }
  return {
    name: `In ${own.name}`,
    lines: [startLine('person'), { id: lineId(), verb: 'keep', off: false, unknownAsYes: false, criterion }],
  }
}

async function ofPicks(
  actor: Actor,
  these: { of: Subject; ids: number[] } | { of: Subject; find: string },
): Promise<{ name: string; lines: Line[] }> {
  const { of } = these
  const typed = 'find' in these ? these.find.trim() : null
  // Everything there is needs no picks: it is what a list begins with.
  if (typed === '') return { name: `All ${SUBJECT_NAMES[of]}`, lines: [startLine(of)] }
  const ids = 'ids' in these ? [...new Set(these.ids)] : await foundIds(actor, of, these.find)
  await checkPicked(of, ids)
  const [{ id }] = await insertPickSet(db(), ids, actor.id)
  const names = (await firstNames(db(), of, ids)).map((row) => row.name)
  const name = typed !== null ? `Found: ${typed}` : ids.length === 1 ? names[0] : `${countText(ids.length)} ${SUBJECT_NAMES[of]} chosen`
  const reason = typed !== null ? `found in the directory: ${typed}`.slice(0, 200) : ''
  return {
    name,
    lines: [
      { ...startLine(of), off: true },
      { id: lineId(), verb: 'pick', off: false, side: 'in', set: { id, count: ids.length }, names, reason, until: null, by: actor.name },
    ],
  }
}
