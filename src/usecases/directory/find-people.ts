import { fold } from '@/core/clean/fold'
import type { PersonView } from '@/core/views/record-views'
import { type PeopleSort, SORTS } from '@/core/columns/find'
import type { Glance } from '@/core/screening/glance'
import { db } from '@/db/connection'
import { askEngine, EngineAway } from '@/engine/client'
import { momentNow } from '@/usecases/screening/screening-now'
import type { FindAnswer } from '@/engine/protocol'
import type { Actor } from '@/usecases/team/actor'
import { PAGE } from '@/usecases/lists/list-account'
import { peoplePage, peopleRows } from './people-page'

/** How many emails or phones a typed word may be part of before more letters are needed to tell them apart. */
const MOST_ADDRESSES = 20_000

/** People whose name, organisation, role, town, email or phone says every word that was typed. */
export async function findPeople(
  actor: Actor,
  typed: string,
  sort: PeopleSort = 'name',
  offset = 0,
): Promise<{ total: number; behind: string | null; people: PersonView[] }> {
  const { total, ids, behind, glances } = await askFind(actor, typed, sort, offset, PAGE)
  return {
    total,
    behind: behind === null ? null : new Date(behind).toISOString(),
    people: glances ? await peopleRows(ids, glances) : (await peoplePage(ids)).map(({ view }) => view),
  }
}

/** The ids of everybody found, so many at most. */
export async function idsFound(actor: Actor, typed: string, most: number): Promise<number[]> {
  return (await askFind(actor, typed, 'name', 0, most)).ids
}

async function askFind(
  _actor: Actor,
  typed: string,
  sort: PeopleSort,
  offset: number,
  limit: number,
): Promise<Omit<FindAnswer, 'glances'> & { glances?: Glance[] }> {
  const words = await Promise.all(wordsOf(typed).map(async (text) => ({ text, ids: await havingAddress(text) })))
  try {
    return await askEngine('find', { moment: momentNow(), words, sort: SORTS.includes(sort) ? sort : 'name', page: { offset, limit } })
  } catch (error) {
    if (!(error instanceof EngineAway)) throw error
    return findByDatabase(words, offset, limit)
  }
}

/** Whoever has an email or phone that a word is part of; nobody where it cannot be part of one. */
async function havingAddress(word: string): Promise<number[]> {
  if (!/[@\d]/.test(word) || word.length < 3) return []
  const like = `%${word.replace(/[%_\\]/g, '')}%`
  const rows = await db()('address as a')
    .join('person as p', 'p.id', 'a.person_id')
    .where('p.state', 'live')
    .whereIn('a.channel', ['email', 'phone'])
    .where('a.value', 'like', like)
    .limit(MOST_ADDRESSES)
    .distinct('a.person_id as id')
  return rows.map((row) => row.id)
}

/** While the engine is away: from the database, and counted only as far as it goes. */
async function findByDatabase(
  words: { text: string; ids: number[] }[],
  offset: number,
  limit: number,
): Promise<{ total: number; ids: number[]; behind: null }> {
  const query = db()('person as p').leftJoin('organisation as o', 'o.id', 'p.organisation_id').where('p.state', 'live')
  for (const { text, ids } of words) {
    const like = `%${text.replace(/[%_\\]/g, '')}%`
    query.where((some) =>
      some
        .where('p.sort_key', 'like', like)
        .orWhere('o.name_key', 'like', like)
        .orWhereILike('p.role', like)
        .orWhereILike('p.town', like)
        .orWhereRaw('p.id = any(?::bigint[])', [ids]),
    )
  }
  const found = await query
    .orderByRaw('p.sort_key, p.id')
    .offset(offset)
    .limit(limit + 1)
    .select('p.id')
  return { total: offset + found.length, ids: found.slice(0, limit).map((row) => row.id), behind: null }
}

function wordsOf(typed: string): string[] {
  const text = typed.slice(0, 200)
  if (text.includes('@')) return [text.trim().toLowerCase()]
  const digits = text.replace(/[^\d]/g, '')
  if (/^[+\d\s()-]+$/.test(text) && digits.length >= 3) return [digits.replace(/^0/, '')]
  return fold(text).split(' ').filter(Boolean)
}
