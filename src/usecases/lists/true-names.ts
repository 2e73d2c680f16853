import type { Criterion } from '@/core/criteria/registry'
import { type Line, sameLine } from '@/core/lists/line'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'

/**
 * Lines with the names of who and what they name as the database has them, whatever the request says: who picked is who is signed in,
 * unless the very line stands already; colleagues, lists, areas and batches are called what they are called. Throws Refused where a
 * colleague does not exist.
 */
export async function withTrueNames(actor: Actor, lines: readonly Line[], standing: readonly Line[], trx: Knex = db()): Promise<Line[]> {
  const criteria = lines.flatMap((line) => ('criterion' in line ? [line.criterion] : []))
  const users = new Map(
    (
      await trx('user')
        .whereIn(
          'id',
          criteria.flatMap((c) => ('by' in c && c.by && typeof c.by === 'object' && 'id' in c.by ? [c.by.id] : [])),
        )
        .select('id', 'name')
    ).map((u) => [u.id, u.name as string]),
  )
  const named = (table: string, ids: number[], column = 'name') =>
    trx(table)
      .whereIn('id', ids)
      .select('id', `${column} as name`)
      .then((rows) => new Map<number, string>(rows.map((row) => [row.id, row.name])))
  const lists = await named('list', [
    ...criteria.flatMap(listsOf),
    ...lines.flatMap((line) => (line.verb === 'limit' && line.like ? [line.like.id] : [])),
  ])
  const areas = await named(
    'area',
    criteria.flatMap((c) => (c.kind === 'area' ? c.areas.map(({ id }) => id) : [])),
  )
  const batches = await named(
    'batch',
    [
      ...criteria.flatMap((c) => (c.kind === 'batch' ? [c.batch.id] : [])),
      ...lines.flatMap((line) => (line.verb === 'start' && line.batch ? [line.batch.id] : [])),
    ],
    'file_name',
  )
  const called = <T extends { id: number; name: string }>(of: T, names: Map<number, string>): T => ({
    ...of,
    name: names.get(of.id) ?? of.name,
  })
  const criterion = (c: Criterion): Criterion => {
    if ('by' in c && c.by && typeof c.by === 'object' && 'id' in c.by && c.by.id !== 'me') {
      const name = users.get(c.by.id)
      if (name === undefined) throw new Refused('A line names a colleague who does not exist.')
      return { ...c, by: { id: c.by.id, name } } as Criterion
    }
    if (c.kind === 'area') return { ...c, areas: c.areas.map((area) => called(area, areas)) }
    if (c.kind === 'batch') return { ...c, batch: called(c.batch, batches) }
    if (c.kind === 'any-list') return { ...c, lists: c.lists.map((list) => called(list, lists)) }
    return 'list' in c && c.list && typeof c.list === 'object'
      ? ({ ...c, list: called(c.list as { id: number; name: string }, lists) } as Criterion)
      : c
  }
  return lines.map((line): Line => {
    if (line.verb === 'pick')
      return standing.some((known) => known.id === line.id && known.verb === 'pick' && sameLine(known, line))
        ? line
        : { ...line, by: actor.name }
    if (line.verb === 'start') return line.batch ? { ...line, batch: called(line.batch, batches) } : line
    if (line.verb === 'limit') return line.like ? { ...line, like: called(line.like, lists) } : line
    return 'criterion' in line ? { ...line, criterion: criterion(line.criterion) } : line
  })
}

const listsOf = (c: Criterion): number[] =>
  c.kind === 'any-list'
    ? c.lists.map(({ id }) => id)
    : 'list' in c && c.list && typeof c.list === 'object'
      ? [(c.list as { id: number }).id]
      : []
