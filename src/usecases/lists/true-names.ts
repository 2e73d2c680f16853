import { type Criterion, questionsOf, renamed, withQuestions } from '@/core/criteria/registry'
import { withoutPostcodes } from '@/core/lists/territories'
import { type Line, sameLine } from '@/core/lists/line'
import { areasNamed, batchesNamed, listsNamed, roundsNamed, territoriesNamed } from '@/core/lists/named'
import { db, type Knex } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { namesIn } from '@/db/lists/named-things'
import { namesOfAll } from '@/db/team/colleagues'

/**
 * Lines with the names of who and what they name as the database has them, whatever the request says: who picked is who is signed in,
 * unless the very line stands already; colleagues, lists, areas and batches are called what they are called. Throws Refused where a
 * colleague does not exist.
 */
export async function withTrueNames(actor: Actor, lines: readonly Line[], standing: readonly Line[], trx: Knex = db()): Promise<Line[]> {
  const criteria = lines.flatMap((line) => ('criterion' in line ? questionsOf(line.criterion) : []))
  const users = new Map(
    (
      await namesOfAll(
        trx,
        criteria.flatMap((c) => ('by' in c && c.by && typeof c.by === 'object' && 'id' in c.by ? [c.by.id] : [])),
      )
    ).map((u) => [u.id, u.name as string]),
  )
  const named = (table: string, ids: number[], column = 'name') => namesIn(trx, table, ids, column)
  const idsOf = (named: readonly { id: number }[]) => named.map(({ id }) => id)
  const lists = await named('list', idsOf([...listsNamed(lines).map(({ list }) => list), ...roundsNamed(lines)]))
  const areas = await named('area', idsOf(areasNamed(lines)))
  const territories = await named('territory', idsOf(territoriesNamed(lines)))
  const batches = await named('batch', idsOf(batchesNamed(lines)), 'file_name')
  const called = <T extends { id: number; name: string }>(of: T, names: Map<number, string>): T => ({
    ...of,
    name: names.get(of.id) ?? of.name,
  })
  const question = (c: Criterion): Criterion => {
    if ('by' in c && c.by && typeof c.by === 'object' && 'id' in c.by && c.by.id !== 'me') {
      const name = users.get(c.by.id)
      if (name === undefined) throw new Refused('A line names a colleague who does not exist.')
      return { ...c, by: { id: c.by.id, name } } as Criterion
    }
    return renamed(c, (thing, { what }) =>
      called(thing, { area: areas, batch: batches, territory: territories, list: lists, rounds: lists }[what]),
    )
  }
  return withoutPostcodes(lines).map((line): Line => {
    if (line.verb === 'pick')
      return standing.some((known) => known.id === line.id && known.verb === 'pick' && sameLine(known, line))
        ? line
        : { ...line, by: actor.name }
    if (line.verb === 'start') return line.batch ? { ...line, batch: called(line.batch, batches) } : line
    if (line.verb === 'limit') return line.like ? { ...line, like: called(line.like, lists) } : line
    return 'criterion' in line ? { ...line, criterion: withQuestions(line.criterion, question) } : line
  })
}
