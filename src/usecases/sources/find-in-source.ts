import { partsOf, searchText, type Split, SPLITS, tooMany } from '@/core/sources/parts'
import { type Search, SEARCHED_SOURCES, type SearchedName, SOURCES } from '@/core/sources/source'
import { db } from '@/db/connection'
import { searchedSource } from '@/sources/http-source'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { enqueueEnquiry, enquiryFor, enquiryOf, makeEnquiry } from './enquiries'
import { countText } from '@/core/text/written'
import {
  CHANNELS,
  countItems,
  type Enquiry,
  markReady,
  updateAsked,
  updateParts,
  updateSplit,
  wantChannels,
  type Wanted,
  withKnown,
  writeItems,
} from '@/db/sources/enquiry-rows'
import { tellWork } from '@/db/team/news'

const LONGEST = 200

function validSearch(asked: Search): Search {
  const words = String(asked?.words ?? '').trim()
  const names = (all: unknown): string[] => (Array.isArray(all) ? [...new Set(all.map(String))].slice(0, 100) : [])
  if (words.length > LONGEST) throw new Refused(`At most ${LONGEST} letters are searched for.`)
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

const newPart = (search: Search): Enquiry['parts'][number] => ({ search, next: null, through: false, total: null, came: 0, most: 0 })

/** Splits a search that found more than its source gives out, and goes on part by part; what came is kept, and nothing comes twice. */
export async function splitFind(actor: Actor, id: number, by: Split): Promise<void> {
  mustCoordinate(actor, 'Asking a source')
  if (!SPLITS.includes(by)) throw new Refused('A search is split by sub-kind or by district.')
  await db().transaction(async (trx) => {
    const e = await enquiryFor(actor, id, 'see', trx, true)
    if (e.asked.kind !== 'find' || e.state === 'asking' || e.state === 'running' || !e.narrowing)
      throw new Refused('This search cannot be split now.')
    const split = e.asked.split
    // Split once already: each part that is still too large is split the other way.
    const parts =
      split === null
        ? partsOf(e.asked.search, by, e.narrowing).map(newPart)
        : e.parts.flatMap((part) =>
            part.total !== null && part.total > part.most
              ? partsOf(part.search, by, e.narrowing as NonNullable<Enquiry['narrowing']>).map(newPart)
              : [part],
          )
    if (split === by) throw new Refused(`It is split by ${by} already.`)
    await updateSplit(trx, id, e.asked, by, parts)
    await enqueueEnquiry(trx, id)
  })
}

/**
 * Goes through a search page by page. Where it got to is written with what came, so that a run that broke off goes on there
 * and doubles nothing. Throws SourceTrouble where the source does not answer.
 */
export async function runFind(id: number): Promise<void> {
  for (;;) {
    const e = await enquiryOf(db(), id)
    if (e.state !== 'asking') return
    const at = e.parts.findIndex((part) => !part.through)
    if (at < 0) return finish(e)
    const part = e.parts[at]
    const source = searchedSource(e.source as SearchedName)
    const prices = e.prices ?? (await source.prices())
    const page = await source.find(part.search, part.next)
    await db().transaction(async (trx) => {
      const held = await enquiryOf(trx, id, true)
      if (held.state !== 'asking' || JSON.stringify(held.parts[at]) !== JSON.stringify(part)) return
      await writeItems(trx, id, await withKnown(trx, e.source, page.items))
      const parts = held.parts.map((other, i) =>
        i === at
          ? {
              ...part,
              next: page.next,
              through: page.next === null,
              total: page.total,
              came: part.came + page.items.length,
              most: page.most,
            }
          : other,
      )
      const whole =
        held.asked.kind === 'find' && held.asked.split === null
          ? {
              narrowing: tooMany(page)
                ? JSON.stringify({ total: page.total, most: page.most, subKinds: page.subKinds, districts: page.districts })
                : null,
            }
          : {}
      await updateParts(trx, id, parts, prices, whole)
    })
  }
}

async function finish(e: Enquiry): Promise<void> {
  await db().transaction(async (trx) => {
    await markReady(trx, e.id)
    await wantChannels(trx, e.id, e.asked.kind === 'find' ? e.asked.wanted : [])
    const [{ n }] = await countItems(trx, e.id)
    await tellWork(trx, e.actor_id, `${e.name}: ${countText(n)} found.`, `/intake/enquiries/${e.id}`)
  })
}

/** Leaves out, of what is not known, whatever has none of the wanted channels; takes back in what has. None wanted leaves nothing out. */
export async function chooseChannels(actor: Actor, id: number, wanted: Wanted[]): Promise<void> {
  mustCoordinate(actor, 'Asking a source')
  const chosen = CHANNELS.filter((channel) => wanted.includes(channel))
  await db().transaction(async (trx) => {
    const e = await enquiryFor(actor, id, 'see', trx, true)
    if (e.asked.kind !== 'find' || e.state === 'running') throw new Refused('This cannot be chosen now.')
    await updateAsked(trx, id, e.asked, chosen)
    await wantChannels(trx, id, chosen)
  })
}
