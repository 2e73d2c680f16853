import type { AnswerTo } from '@/engine/protocol'
import { fold } from '@/core/clean/fold'
import type { PersonView } from '@/core/views/record-views'
import { type PeopleSort, SORTS } from '@/core/columns/find'
import type { Glance } from '@/core/screening/glance'
import { askEngine, EngineAway } from '@/engine/client'
import { momentNow } from '@/usecases/screening/screening-now'
import type { Actor } from '@/usecases/team/actor'
import { PAGE } from '@/usecases/lists/list-account'
import { peoplePage, peopleRows } from './people-page'
import { findByDatabase, havingAddress } from '@/db/directory/find-people'

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
): Promise<Omit<AnswerTo<'find'>, 'glances'> & { glances?: Glance[] }> {
  const words = await Promise.all(wordsOf(typed).map(async (text) => ({ text, ids: await havingAddress(text) })))
  try {
    return await askEngine('find', { moment: momentNow(), words, sort: SORTS.includes(sort) ? sort : 'name', page: { offset, limit } })
  } catch (error) {
    if (!(error instanceof EngineAway)) throw error
    return findByDatabase(words, offset, limit)
  }
}

function wordsOf(typed: string): string[] {
  const text = typed.slice(0, 200)
  if (text.includes('@')) return [text.trim().toLowerCase()]
  const digits = text.replace(/[^\d]/g, '')
  if (/^[+\d\s()-]+$/.test(text) && digits.length >= 3) return [digits.replace(/^0/, '')]
  return fold(text).split(' ').filter(Boolean)
}
