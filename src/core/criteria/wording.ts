import porter2 from 'wink-porter2-stemmer'
import { fold } from '../clean/fold'
import type { WordColumn } from '../columns/words'

/** Stems of words that were met; a directory has few words beside its records. */
const known = new Map<string, string>()
const MOST_KNOWN = 100_000

/**
 * A wording as stems: folded, split into words, each cut to its stem. So *Estates Manager*, *estate management* and
 * *ESTATES-MANAGER* have the same stems. Source of the stems: M. F. Porter, The English (Porter2) stemming algorithm,
 * Snowball, 2001.
 */
export function stems(text: string): string[] {
  const folded = fold(text)
  return folded === '' ? [] : folded.split(' ').map(stem)
}

function stem(word: string): string {
  let found = known.get(word)
  if (found === undefined) {
    found = porter2(word)
    if (known.size < MOST_KNOWN) known.set(word, found)
  }
  return found
}

/** Whether the stems of a phrase stand next to each other, in order, among the stems of a wording. */
export function says(wording: string[], phrase: string[]): boolean {
  if (phrase.length === 0) return false
  for (let from = 0; from + phrase.length <= wording.length; from++) {
    let said = 0
    while (said < phrase.length && wording[from + said] === phrase[said]) said++
    if (said === phrase.length) return true
  }
  return false
}

/** Where each stem stands among the wordings of a column, by their codes. */
interface StemIndex {
  upTo: number
  codes: Map<string, number[]>
}
const indexes = new WeakMap<WordColumn, StemIndex>()

/** The stems of every wording of a column, indexed as far as it has grown. */
function indexed(column: WordColumn): StemIndex {
  const wordings = column.derived(stems)
  let index = indexes.get(column)
  if (!index) indexes.set(column, (index = { upTo: 0, codes: new Map() }))
  for (; index.upTo < wordings.length; index.upTo++) {
    for (const own of new Set(wordings[index.upTo])) {
      const known = index.codes.get(own)
      if (known) known.push(index.upTo)
      else index.codes.set(own, [index.upTo])
    }
  }
  return index
}

/** Of each wording of a column, by code, whether it says any of some phrases and none of others. Looks at those alone that have the rarest stem of a phrase. */
export function saying(column: WordColumn, any: readonly string[], not: readonly string[] = []): Uint8Array {
  const { codes } = indexed(column)
  const wordings = column.derived(stems)
  const said = new Uint8Array(wordings.length)
  const mark = (phrase: string[], as: 0 | 1) => {
    const few = phrase.map((own) => codes.get(own) ?? []).sort((a, b) => a.length - b.length)[0] ?? []
    for (const code of few) if (said[code] !== as && (phrase.length === 1 || says(wordings[code], phrase))) said[code] = as
  }
  for (const phrase of any) mark(stems(phrase), 1)
  for (const phrase of not) mark(stems(phrase), 0)
  return said
}
