import type {
  Checked,
  Fetched,
  Filled,
  FillingSource,
  FoundPage,
  Gap,
  Prices,
  Search,
  SearchedName,
  SearchedSource,
} from '@/core/sources/source'
import type { FeedPage, FeedSource } from '@/core/changes/feed'
import { outsideOfTransactions } from '@/runtime/inside-transaction'
import { settings } from '@/runtime/settings'

/** A source did not answer, however often it was asked, or would not. Its message is for the person who waits. */
export class SourceTrouble extends Error {}

/** Milliseconds before each further try (common practice, no source: doubled each time); a source that asks for longer is waited for. */
const WAITS = [250, 500, 1000, 2000, 4000]
const LONGEST_ANSWER = 15_000

let waits: readonly number[] = WAITS
/** For tests: other waits before further tries. */
export function setWaits(next: readonly number[]): void {
  waits = next
}

/** Asks a source, again after a while where it is busy, broken or gone. */
export async function ask<T>(path: string, body: unknown): Promise<T> {
  outsideOfTransactions('a source is asked')
  let last = 'it cannot be reached'
  for (let tried = 0; ; tried++) {
    let wait = waits[tried] as number | undefined
    try {
      const response = await fetch(`http://127.0.0.1:${settings().SOURCES_PORT}${path}`, {
        method: 'POST',
        body: JSON.stringify(body),
        headers: { 'content-type': 'application/json' },
        signal: AbortSignal.timeout(LONGEST_ANSWER),
      })
      if (response.ok) return (await response.json()) as T
      const said = ((await response.json().catch(() => ({}))) as { error?: string }).error ?? `status ${response.status}`
      if (response.status < 500 && response.status !== 429) throw new SourceTrouble(`The source would not answer: ${said}.`)
      last = said
      // RFC 9110, 10.2.3: Retry-After in seconds.
      if (wait !== undefined && response.status === 429) wait = Math.max(wait, Number(response.headers.get('retry-after') ?? 0) * 1000)
    } catch (error) {
      if (error instanceof SourceTrouble) throw error
      last = (error as Error).name === 'TimeoutError' ? 'it takes too long' : 'it cannot be reached'
    }
    if (wait === undefined) throw new SourceTrouble(`The source did not answer after ${tried + 1} tries: ${last}.`)
    await new Promise((resolve) => setTimeout(resolve, wait))
  }
}

const prices = (): Promise<Prices> => ask('/prices', {})

/** Returns a source that is searched, asked over HTTP. */
export const searchedSource = (name: SearchedName): SearchedSource => ({
  prices,
  find: (search: Search, next: string | null): Promise<FoundPage> => ask(`/${name}/find`, { search, next }),
  fetch: (keys: string[]): Promise<Fetched[]> => ask(`/${name}/fetch`, { keys }),
})

export const fillingSource: FillingSource = {
  prices,
  fill: (gaps: Gap[]): Promise<Filled[]> => ask('/checker/fill', { gaps }),
  check: (emails: string[]): Promise<Checked[]> => ask('/checker/check', { emails }),
}

export const countyWire: FeedSource = {
  name: 'County wire',
  read: (cursor): Promise<FeedPage> => ask('/feed/read', { cursor }),
}
