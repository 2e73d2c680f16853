import type { Bitset } from '../columns/bitset'
import type { ListAccount } from '../lists/account'
import type { Line } from '../lists/line'

/** Where people of a sample come from: the line that let them in, and the one that counted an unknown of theirs as yes, by their ids. */
export interface Origin {
  line: string
  unknownOf: string | null
}

export interface OriginSet extends Origin {
  set: Bitset
}

/**
 * The people of a list by where they come from, each in one set, those of the first lines first; sets that are empty are left out.
 * `without` gives the account of the lines with one of them taking unknown as no: whom that line would leave out is unknown to it.
 */
export function originsOf(people: Bitset, lines: readonly Line[], account: ListAccount, without: (line: Line) => ListAccount): OriginSet[] {
  const origins: OriginSet[] = []
  let rest = people
  // Whoever is unknown to several lines belongs to the last of them.
  const unknown = lines
    .map((line, at) => ({ line, at }))
    .filter(({ line }) => line.verb === 'keep' && !line.off && line.unknownAsYes)
    .reverse()
    .map(({ line, at }) => ({ line, behind: at, set: without(line).moves[at].unknown }))
  for (let at = lines.length - 1; at >= 0; at--) {
    // The last line that took somebody in is the one they owe it to.
    const taken = rest.and(account.moves[at].in)
    rest = rest.andNot(taken)
    let left = taken
    for (const own of unknown) {
      // A line before the one that took them in has no say in it.
      if (own.behind < at) continue
      const set = left.and(own.set)
      left = left.andNot(set)
      origins.push({ line: lines[at].id, unknownOf: own.line.id, set })
    }
    origins.push({ line: lines[at].id, unknownOf: null, set: left })
  }
  const known = origins.filter(({ set }) => set.count() > 0)
  const place = (id: string) => lines.findIndex((line) => line.id === id)
  return known.sort((a, b) => place(a.line) - place(b.line) || Number(a.unknownOf !== null) - Number(b.unknownOf !== null))
}
