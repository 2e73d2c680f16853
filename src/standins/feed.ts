import { readFileSync } from 'node:fs'
import type { FeedItem, FeedPage } from '@/core/changes/feed'
import { datePlusDays, localDate } from '@/core/calendar/local-day'
import { pellowCounty } from '../../demo/county'
import { Random } from '@/core/checks/random'
import { BadRequest, type Route } from './harness'

/** A first reading begins so many days back. */
const BEGINS = 14
const PAGE = 50
/** So many items a day, and of so many one is repeated, late, or contradicted (all made up). */
const A_DAY = 6
const REPEATED_ONE_IN = 12
const LATE_ONE_IN = 9
const CONTRADICTED_ONE_IN = 20

/**
 * A feed of what happens in the made-up county: the same items for the same day, whoever asks. Some come days late, some twice, and
 * some say what another said otherwise. It knows the day by the clock of the installation.
 */
export function countyFeed(): Record<string, Route> {
  const days = new Map<string, FeedItem[]>()
  return {
    read: ({ cursor }: { cursor: string | null }): FeedPage => {
      const today = localDate(presentInstant(), 'Europe/London')
      const [day, at] = position(cursor ?? `${datePlusDays(today, -BEGINS)}:0`)
      const items: FeedItem[] = []
      let [next, from] = [day, at]
      while (next <= today && items.length < PAGE) {
        const published = publishedOn(next, days)
        const taken = published.slice(from, from + PAGE - items.length)
        items.push(...taken)
        from += taken.length
        if (from >= published.length && next < today) [next, from] = [datePlusDays(next, 1), 0]
        else if (from >= published.length) break
      }
      return { items, next: `${next}:${from}`, more: next < today || from < publishedOn(next, days).length }
    },
  }
}

function position(cursor: string): [string, number] {
  const found = /^(\d{4}-\d\d-\d\d):(\d{1,6})$/.exec(cursor)
  if (!found) throw new BadRequest('there is no such place in the feed')
  return [found[1], Number(found[2])]
}

function presentInstant(): number {
  const file = process.env.ARCH_CLOCK_FILE
  const at = file ? Date.parse(safeRead(file)) : Number.NaN
  return Number.isNaN(at) ? Date.now() : at
}

function safeRead(file: string): string {
  try {
    return readFileSync(file, 'utf8').trim()
  } catch {
    return ''
  }
}

/** What is published on a day: what happened on it, and what of earlier days comes late or again. */
function publishedOn(day: string, days: Map<string, FeedItem[]>): FeedItem[] {
  return [...happenedOn(day, days).filter((_, i) => !isLate(day, i)), ...lateFrom(day, days), ...repeatedFrom(day, days)]
}

const isLate = (day: string, i: number) => new Random(seedOf(day) + i).below(LATE_ONE_IN) === 0

function lateFrom(day: string, days: Map<string, FeedItem[]>): FeedItem[] {
  const before = datePlusDays(day, -4)
  return happenedOn(before, days).filter((_, i) => isLate(before, i))
}

function repeatedFrom(day: string, days: Map<string, FeedItem[]>): FeedItem[] {
  const before = datePlusDays(day, -2)
  return happenedOn(before, days).filter((_, i) => !isLate(before, i) && new Random(seedOf(before) + 1000 + i).below(REPEATED_ONE_IN) === 0)
}

const seedOf = (day: string) => Math.floor(Date.parse(`${day}T00:00:00Z`) / 86_400_000) * 7919

const ROLES = ['Head of Estates', 'Facilities Manager', 'Estates Manager', 'Operations Director', 'Director of Property', 'Site Manager']

let county: ReturnType<typeof pellowCounty> | null = null

function happenedOn(day: string, days: Map<string, FeedItem[]>): FeedItem[] {
  const known = days.get(day)
  if (known) return known
  county ??= pellowCounty()
  const random = new Random(seedOf(day) + 5)
  const staff = county.people.slice(0, 15_000)
  const items: FeedItem[] = []
  for (let i = 0; i < A_DAY; i++) {
    const id = `${day}-${i}`
    const link = `https://wire.example/${day}/${i}`
    const turn = random.below(10)
    const p = random.pick(staff)
    const org = random.pick(county.organisations)
    const person = { person: `${p.given} ${p.family}`, organisation: p.organisation, email: p.email || null }
    const plain = { before: null, after: null, text: null, link, day, stated: random.chance(0.6), field: null, happening: null }
    if (turn < 3) {
      const item: FeedItem = { ...plain, id, about: person, field: 'role', before: p.role, after: random.pick(ROLES) }
      items.push(item)
      // Somebody else's list is behind, and says so a day later.
      if (random.below(CONTRADICTED_ONE_IN) === 0)
        items.push({ ...item, id: `${id}-b`, after: p.role, before: null, stated: false, link: null })
    } else if (turn < 4) items.push({ ...plain, id, about: person, field: 'organisation', before: p.organisation, after: org.name })
    else if (turn < 5)
      items.push({ ...plain, id, about: person, field: 'organisation', before: p.organisation, after: null, text: 'has left' })
    else if (turn < 6) items.push({ ...plain, id, about: person, happening: 'wrote', text: 'spoke about keeping rain on the roof' })
    else {
      const [happening, text] = random.pick([
        ['permit', 'permit for a new roof'],
        ['tender', 'tender for grounds and drainage'],
        ['storm', 'damage to the roof after the gale'],
        ['building work', 'an extension is being built'],
        ['hiring', 'three posts in estates are advertised'],
        ['money raised', 'a grant towards a greener site'],
      ] as const)
      items.push({ ...plain, id, about: { organisation: org.name }, happening, text: `${org.name}: ${text}` })
    }
  }
  days.set(day, items)
  return items
}
