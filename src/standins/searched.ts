import { stems } from '@/core/criteria/wording'
import type { Fetched, Found, FoundPage, Search } from '@/core/sources/source'
import { BadRequest, type Route } from './harness'
import { CHANNELS } from '@/core/records/channels'

/** One thing a searched stand-in has: what it is found by, and all that is known of it. */
export interface Entry {
  found: Found
  fields: Record<string, string>
  words: Set<string>
}

/** Makes an entry of a stand-in's register from what it says of somebody. */
export function entry(found: Omit<Found, 'has'>, fields: Record<string, string>): Entry {
  const ways = { email: fields['E-mail'], phone: fields.Phone, post: fields.Street && found.postcode, direct: undefined }
  const has = CHANNELS.filter((channel) => ways[channel])
  return { found: { ...found, has }, fields, words: new Set(stems([found.name, found.kind, found.subKind, found.district].join(' '))) }
}

/** How many a search gives out however it is paged, and how many stand on a page. */
const MOST = 120
const PAGE = 25
const MOST_KEYS = 50

/** Finds and fetches: words in any order and by their stems, so that singular and plural find the same. */
export function searched(entries: Entry[]): { find: Route; fetch: Route } {
  const byKey = new Map(entries.map((e) => [e.found.key, e]))
  return {
    find({ search, next }: { search: Search; next: string | null }): FoundPage {
      const words = stems(search.words)
      const hits = entries.filter((e) => words.every((word) => e.words.has(word)))
      const within = hits.filter(
        ({ found }) =>
          (search.subKinds.length === 0 || search.subKinds.includes(found.subKind)) &&
          (search.districts.length === 0 || search.districts.includes(found.district)),
      )
      const from = Number(next ?? 0)
      if (!Number.isInteger(from) || from < 0) throw new BadRequest('there is no such page')
      const end = Math.min(from + PAGE, MOST, within.length)
      return {
        total: within.length,
        most: MOST,
        items: within.slice(from, end).map(({ found }) => found),
        next: end < Math.min(MOST, within.length) ? String(end) : null,
        subKinds: counted(within, 'subKind'),
        districts: counted(within, 'district'),
      }
    },
    fetch({ keys }: { keys: string[] }): Fetched[] {
      if (!Array.isArray(keys) || keys.length > MOST_KEYS) throw new BadRequest(`at most ${MOST_KEYS} keys at once`)
      return keys.flatMap((key) => {
        const e = byKey.get(key)
        return e ? [{ key, fields: e.fields }] : []
      })
    },
  }
}

function counted(entries: Entry[], of: 'subKind' | 'district'): [string, number][] {
  const counts = new Map<string, number>()
  for (const { found } of entries) counts.set(found[of], (counts.get(found[of]) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))
}
