import { firstPolicy } from '@/core/screening/rules'
import { allows, LIST_ROLES, type ListRole } from '@/core/records/list-roles'
import type { Actor } from '@/usecases/team/actor'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { propose } from '@/usecases/lists/proposals'
import { releaseRound } from '@/usecases/rounds/release-round'
import { shareList } from '@/usecases/lists/share-list'
import { startRound } from '@/usecases/rounds/start-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { broughtIn, type TestDatabase } from './database'
import { LINES, postEnough } from './matrix'
import type { Needs } from './matrix-needs'

export type Relation = ListRole | 'owner' | 'private'
export const RELATIONS: Relation[] = ['private', ...LIST_ROLES, 'owner']

const kept = new Map<string, Promise<number>>()
/**
 * Something of a list that stands to somebody as is said; `batch` is one that waits for its columns. It is the one that was made before,
 * until it is forgotten: what only looks at it, or was refused, leaves it as it is.
 */
export function thingOf(
  has: { t: TestDatabase; batch: number },
  of: Needs['of'],
  relation: Relation,
  who: Actor,
  wantsList = false,
): Promise<number> {
  const key = JSON.stringify([of, relation, who.id, wantsList])
  const made = kept.get(key) ?? freshThingOf(has, of, relation, who, wantsList)
  kept.set(key, made)
  return made
}

/** The next one asked for is made afresh, since something was done to this one. */
export function forgetThing(of: Needs['of'], relation: Relation, who: Actor, wantsList = false): void {
  kept.delete(JSON.stringify([of, relation, who.id, wantsList]))
}

async function freshThingOf(
  { t, batch }: { t: TestDatabase; batch: number },
  of: Needs['of'],
  relation: Relation,
  who: Actor,
  wantsList: boolean,
): Promise<number> {
  if (of === 'person') {
    await broughtIn(t.ines, `one-${Math.random()}.csv`, `Name,Email\nOne Person,one-${Math.random()}@way.example\n`)
    return (await t.app('person').max('id as id').first())?.id
  }
  if (of === 'anything') return 900_000_000
  const by = relation === 'owner' ? who : t.ines
  if (of === 'batch' && relation === 'owner') {
    const { receiveFile } = await import('@/usecases/intake/receive-file')
    return receiveFile(t.ines, { name: 'waits.csv', bytes: Buffer.from('Name\nSomebody Else\n') })
  }
  const lines = of === 'letters' ? [{ ...(LINES[0] as object), subject: 'premises' }] : LINES
  const list = await createList(by, `List ${Math.random()}`, false, lines as never)
  if (relation !== 'owner')
    await shareList(by, list, { team: null, members: relation === 'private' ? [] : [{ id: who.id, role: relation }] })
  if (of === 'list') return list
  if (of === 'proposal') {
    await saveEdition(by, list, 1, [
      ...LINES,
      { id: 'x', verb: 'keep', off: true, unknownAsYes: false, criterion: { kind: 'tag', any: ['x'] } },
    ] as never)
    return propose(by, list, 2, LINES, 'why')
  }
  if (of === 'enquiry') {
    const [{ id }] = await t.owner('enquiry').insert(
      {
        kind: 'fill',
        source: 'checker',
        name: 'Gaps',
        asked: JSON.stringify({ kind: 'fill', of: { list, name: 'x' }, fields: ['phone'] }),
        state: 'done',
        parts: '[]',
        actor_id: by.id,
        created_at: new Date(),
        list_id: list,
      },
      'id',
    )
    return id
  }
  if (of === 'batch') {
    const [row] = await t.owner('batch').where({ id: batch }).select('*')
    const { id: _, ...rest } = row
    const [{ id }] = await t.owner('batch').insert(
      {
        ...rest,
        list_id: list,
        reading: JSON.stringify(row.reading),
        choices: JSON.stringify(row.choices),
        mapping: JSON.stringify(row.mapping),
        shaping: JSON.stringify(row.shaping),
        options: JSON.stringify(row.options),
        first_rows: JSON.stringify(row.first_rows),
        trial: null,
      },
      'id',
    )
    await t.owner.raw('insert into batch_file (batch_id, sha256, size) select ?, sha256, size from batch_file where batch_id = ?', [
      id,
      batch,
    ])
    await t.owner.raw('insert into batch_file_part (batch_id, part, bytes) select ?, part, bytes from batch_file_part where batch_id = ?', [
      id,
      batch,
    ])
    return id
  }
  const coordinating = { ...by, post: 'coordinator' as const }
  const round = await startRound(coordinating, list)
  if (of === 'released') {
    await setRules(
      coordinating,
      round,
      firstPolicy().map((rule) => ('off' in rule ? { ...rule, off: true } : rule)),
    )
    await releaseRound(coordinating, round)
    if (wantsList) return list
  }
  return round
}

/** How somebody can stand to what something needs. */
export const cells = (needs: Needs): Relation[] =>
  needs.of === undefined || needs.of === 'person' || needs.of === 'anything'
    ? ['see']
    : needs.of === 'batch'
      ? ['private', 'see', 'owner']
      : RELATIONS

/** What is for whoever is not signed in. */
export const skipped = (key: string): boolean => key === 'health GET' || key.startsWith('/sign-in') || key.startsWith('stop/')

/** What somebody is to be told, from what is written down. */
export function expected(needs: Needs, relation: Relation, post: Actor['post']): 'none' | 'not allowed' | 'let through' {
  const ofList =
    needs.of === 'list' ||
    needs.of === 'round' ||
    needs.of === 'released' ||
    needs.of === 'letters' ||
    needs.of === 'proposal' ||
    needs.of === 'enquiry' ||
    needs.of === 'batch'
  if (!postEnough(post, needs.post)) return needs.hidden ? 'none' : 'not allowed'
  if (ofList && relation === 'private') return 'none'
  if (needs.of === 'anything') return 'none'
  if (relation === 'owner' || !ofList || needs.role === undefined) return 'let through'
  return needs.role !== 'owner' && relation !== 'private' && allows(relation, needs.role)
    ? 'let through'
    : needs.hidden
      ? 'none'
      : 'not allowed'
}

/** Let through is whatever is neither refused for who asks nor broken: it may not be possible just now. */
export const saidBy = (status: number): string =>
  status === 404
    ? 'none'
    : status === 403
      ? 'not allowed'
      : status === 400
        ? 'not whole'
        : status >= 500
          ? `broke: ${status}`
          : status === 401
            ? 'nobody'
            : 'let through'

export type Route = Record<
  string,
  ((request: Request, given: { params: Promise<Record<string, string>> }) => Promise<Response>) | undefined
>
const routeFiles = import.meta.glob<Route>('/src/app/**/route.ts')
const actionFiles = import.meta.glob<Record<string, (...args: unknown[]) => Promise<unknown>>>('/src/app/**/actions.ts')
const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE']

/** Every route, by its path and method. */
export async function routesThere(): Promise<Map<string, NonNullable<Route[string]>>> {
  const routes = new Map<string, NonNullable<Route[string]>>()
  for (const [file, load] of Object.entries(routeFiles)) {
    const module = await load()
    for (const method of METHODS)
      if (module[method])
        routes.set(
          `${file
            .replace('/src/app/', '')
            .replace('/route.ts', '')
            .replace(/^api\/\([a-z]+\)/, 'api')} ${method}`,
          module[method],
        )
  }
  return routes
}

/** Every action, by the page whose it is and its name. */
export async function actionsThere(): Promise<Map<string, (...args: unknown[]) => Promise<unknown>>> {
  const actions = new Map<string, (...args: unknown[]) => Promise<unknown>>()
  for (const [file, load] of Object.entries(actionFiles)) {
    const module = await load()
    const name = file
      .replace('/src/app/', '')
      .replace('/actions.ts', '')
      .replace(/^\(book\)\//, '')
    for (const [key, action] of Object.entries(module))
      if (typeof action === 'function') actions.set(`${name === 'sign-in' ? '/sign-in' : name} ${key}`, action)
  }
  return actions
}
