import type { Bitset } from '../columns/bitset'
import type { PeopleColumns } from '../columns/people-columns'
import type { ListAccount } from '../lists/account'

/**
 * Where everybody stood when a round was frozen, one code a person: 0 on the list, 1 never on the page, 2 + 2i left out
 * by line i, 3 + 2i unknown to line i (lines from 0).
 */
export interface Standing {
  ids: Int32Array
  codes: Uint8Array
}

export type Stood = { at: 'on' | 'never' } | { at: 'out' | 'unknown'; line: number }

/** Returns how every record of the directory stands with a list, as codes: on, never, or out by a line. */
export function standingOf(account: ListAccount, columns: PeopleColumns): Standing {
  const size = account.figures.tabs.directory
  const standing = { ids: new Int32Array(size), codes: new Uint8Array(size) }
  let i = 0
  const put = (set: Bitset, code: number) =>
    set.forEach((n) => {
      standing.ids[i] = columns.idAt(n)
      standing.codes[i++] = code
    })
  put(account.on, 0)
  put(account.never, 1)
  account.decided.forEach((d, line) => {
    put(d.leftOut, 2 + 2 * line)
    put(d.unknown, 3 + 2 * line)
  })
  return standing
}

/** Returns what a code says: on, never on the page, or out or unknown by the line at a place. */
export function stood(code: number): Stood {
  if (code < 2) return { at: code === 0 ? 'on' : 'never' }
  return { at: code % 2 === 0 ? 'out' : 'unknown', line: (code - 2) >> 1 }
}

/** The ids that stood on the list. */
export function listedThen(standing: Standing): number[] {
  return Array.from(standing.ids.filter((_, i) => standing.codes[i] === 0))
}
