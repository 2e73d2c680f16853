import { db } from '@/db/connection'
import type { Actor } from './actor'

/** Words that stand in the directory, the most common first, to choose from while a line is written. */
export interface KnownWords {
  towns: string[]
  counties: string[]
  industries: string[]
  tags: string[]
}

/** How long the words are offered before they are looked up again, in milliseconds. They only help with typing. */
const KEPT = 5 * 60_000

let kept: { at: number; words: Promise<KnownWords> } | null = null

export async function knownWords(_actor: Actor): Promise<KnownWords> {
  if (!kept || Date.now() - kept.at > KEPT) {
    const words = lookUp()
    words.catch(() => {
      kept = null
    })
    kept = { at: Date.now(), words }
  }
  return kept.words
}

async function lookUp(): Promise<KnownWords> {
  const of = async (table: 'person' | 'organisation', column: string) => {
    const rows = await db()(table).whereNotNull(column).where(table === 'person' ? { state: 'live' } : { live: true }).groupBy(column).orderByRaw('count(*) desc').limit(40).select(`${column} as word`)
    return rows.map((row) => row.word as string)
  }
  const { rows: tags } = await db().raw(`select word from person, unnest(tags) word where state = 'live' group by word order by count(*) desc limit 40`)
  const [people, organisations] = [await of('person', 'county'), await of('organisation', 'county')]
  return { towns: await of('person', 'town'), counties: [...new Set([...people, ...organisations])], industries: await of('organisation', 'industry'), tags: tags.map((t: { word: string }) => t.word) }
}
