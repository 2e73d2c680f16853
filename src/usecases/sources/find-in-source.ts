import { searchText } from '@/core/sources/parts'
import { type Search, SEARCHED_SOURCES, type SearchedName, SOURCES } from '@/core/sources/source'
import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { enqueueEnquiry, makeEnquiry } from './enquiries'
import type { Enquiry } from '@/db/sources/enquiry-rows'

const LONGEST = 200

function validSearch(asked: Search): Search {
  const words = String(asked?.words ?? '').trim()
  const names = (all: unknown): string[] => (Array.isArray(all) ? [...new Set(all.map(String))].slice(0, 100) : [])
  if (words.length > LONGEST) throw new Refused(`Search for at most ${LONGEST} letters.`)
  return { words, subKinds: names(asked?.subKinds), districts: names(asked?.districts) }
}

/** Begins to search a source. Searching costs nothing; what it finds is paid for when it is brought in. */
export async function startFind(actor: Actor, source: SearchedName, asked: Search): Promise<number> {
  mustCoordinate(actor, 'Asking a source')
  if (!SEARCHED_SOURCES.includes(source)) throw new Refused('There is no such source.')
  const search = validSearch(asked)
  return db().transaction(async (trx) => {
    const id = await makeEnquiry(trx, actor, {
      kind: 'find',
      source,
      name: `${SOURCES[source].name}: ${searchText(search)}`,
      asked: { kind: 'find', search, split: null, wanted: [] },
      state: 'asking',
      parts: [newPart(search)],
    })
    await enqueueEnquiry(trx, id)
    return id
  })
}

/** Returns a part of a search that was not asked yet. */
export const newPart = (search: Search): Enquiry['parts'][number] => ({ search, next: null, through: false, total: null, came: 0, most: 0 })
