import pg from 'pg'
import { db } from '@/db/connection'
import { log } from '@/runtime/log'
import { settings } from '@/runtime/settings'
import type { Actor } from './actor'
import { nameOf } from '@/db/team/colleagues'
import { readersOf } from '@/db/lists/list-rows'

/** What open pages are told: that something in the directory changed, that a list was saved, that somebody said or proposed something or came to look at it, that a round moved, that work somebody began has ended. */
export type News =
  | { is: 'work'; text: string; href: string }
  | { is: 'data' }
  | { is: 'talk' | 'here'; list: number }
  | { is: 'edition'; list: number; edition: number; by: string; mine: boolean }
  | { is: 'round'; list: number; round: number }

type Tell = (news: News) => void

/** Changes of the directory are told at most this often, in milliseconds. */
const PACE = 1500

interface Raw {
  list: number
  /** Who is told alone. */
  to?: string
  text?: string
  href?: string
  edition?: number
  round?: number
  by?: string
  /** Somebody came to look, began to work or went. */
  here?: boolean
  /** Somebody one of whose sessions ended, or whose post is another. */
  session?: string
}

/** Listens to the database once for the whole process, and tells everybody who has a page open. */
class NewsDesk {
  private readonly readers = new Map<Tell, { actor: Actor; look: () => void }>()
  private client: pg.Client | null = null
  private due: NodeJS.Timeout | null = null

  subscribe(actor: Actor, tell: Tell, look: () => void): () => void {
    this.readers.set(tell, { actor, look })
    if (!this.client) void this.listen()
    return () => this.readers.delete(tell)
  }

  private async listen(): Promise<void> {
    const client = new pg.Client({ connectionString: settings().APP_DATABASE_URL, application_name: 'news' })
    this.client = client
    const again = () => {
      if (this.client !== client) return
      this.client = null
      client.end().catch(() => {})
      if (this.readers.size > 0) setTimeout(() => !this.client && void this.listen(), 2000).unref()
    }
    client.on('error', again)
    client.on('end', again)
    client.on('notification', ({ channel, payload }) => {
      if (channel === 'arch_change') this.dataChanged()
      else void this.pass(JSON.parse(payload ?? '{}')).catch((error) => log.warn({ message: error.message }, 'news could not be passed on'))
    })
    try {
      await client.connect()
      await client.query('listen arch_change; listen arch_news')
    } catch (error) {
      log.warn({ message: (error as Error).message }, 'the database could not be listened to')
      again()
    }
  }

  private dataChanged(): void {
    this.due ??= setTimeout(() => {
      this.due = null
      for (const tell of this.readers.keys()) tell({ is: 'data' })
    }, PACE)
  }

  /** Passes news of a list on to those who may see it. */
  private async pass(raw: Raw): Promise<void> {
    if (this.readers.size === 0) return
    if (raw.session !== undefined) {
      for (const { actor, look } of this.readers.values()) if (actor.id === raw.session) look()
      return
    }
    if (raw.to !== undefined) {
      for (const [tell, { actor }] of this.readers)
        if (actor.id === raw.to) tell({ is: 'work', text: raw.text ?? '', href: raw.href ?? '/' })
      return
    }
    const readers = new Set((await readersOf(db(), raw.list)).map((r: { id: string }) => r.id))
    const by = raw.by ? ((await nameOf(db(), raw.by))?.name ?? 'Somebody') : ''
    for (const [tell, { actor }] of this.readers) {
      if (!readers.has(actor.id)) continue
      if (raw.edition !== undefined) tell({ is: 'edition', list: raw.list, edition: raw.edition, by, mine: raw.by === actor.id })
      else if (raw.round !== undefined) tell({ is: 'round', list: raw.list, round: raw.round })
      else tell({ is: raw.here ? 'here' : 'talk', list: raw.list })
    }
  }
}

const kept = globalThis as { archNews?: NewsDesk }

/** Tells of what changes elsewhere until the function that comes back is called; `look` is called where it may be that they are not to be told any more. */
export function subscribeNews(actor: Actor, tell: Tell, look: () => void): () => void {
  kept.archNews ??= new NewsDesk()
  return kept.archNews.subscribe(actor, tell, look)
}
