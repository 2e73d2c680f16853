import porter2 from 'wink-porter2-stemmer'
import { fold } from '../clean/fold'
import type { Words } from '../columns/words'

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

/** The stems of every wording of a column as numbers, one wording after the other; `ends` tells where that of each code ends. */
interface Wordings {
  numbers: Map<string, number>
  flat: Int32Array
  ends: Int32Array
  codes: number
}
const kept = new WeakMap<Words, Wordings>()

/** Takes in so many of the wordings that a column has gained; whether all are in. */
function takeIn({ words }: Words, into: Wordings, most: number): boolean {
  const upTo = Math.min(words.length, into.codes + most)
  let end = into.codes === 0 ? 0 : into.ends[into.codes - 1]
  for (; into.codes < upTo; into.codes++) {
    const own = stems(words[into.codes])
    if (end + own.length > into.flat.length) into.flat = extended(into.flat, end + own.length)
    if (into.codes === into.ends.length) into.ends = extended(into.ends, into.codes + 1)
    for (const stem of own) {
      let number = into.numbers.get(stem)
      if (number === undefined) into.numbers.set(stem, (number = into.numbers.size))
      into.flat[end++] = number
    }
    into.ends[into.codes] = end
  }
  return upTo === words.length
}

function extended(values: Int32Array, size: number): Int32Array {
  const next = new Int32Array(Math.max(size, Math.ceil(values.length * 1.5), 256))
  next.set(values)
  return next
}

/**
 * Gets so many more texts of a column ready for `saying`; whether all are. It is worth calling ahead: a text costs some
 * microseconds the first time, and next to nothing from then on.
 */
export function readied(column: Words, most = Number.POSITIVE_INFINITY): boolean {
  return takeIn(column, wordingsOf(column), most)
}

function wordingsOf(column: Words): Wordings {
  let wordings = kept.get(column)
  if (!wordings) kept.set(column, (wordings = { numbers: new Map(), flat: new Int32Array(0), ends: new Int32Array(0), codes: 0 }))
  return wordings
}

/** Of each wording of a column, by code, whether it says (1) any of some phrases and none of others, as `says` has it. */
export function saying(column: Words, any: readonly string[], not: readonly string[] = []): Uint8Array {
  readied(column)
  const { numbers, flat, ends } = wordingsOf(column)
  const said = new Uint8Array(column.words.length)
  const mark = (text: string, as: 0 | 1) => {
    const phrase = stems(text).map((stem) => numbers.get(stem) ?? -1)
    if (phrase.length === 0 || phrase.includes(-1)) return
    const [first] = phrase
    let from = 0
    for (let code = 0; code < said.length; code++) {
      const last = ends[code] - phrase.length
      for (let at = from; at <= last; at++) {
        if (flat[at] !== first) continue
        let same = 1
        while (same < phrase.length && flat[at + same] === phrase[same]) same++
        if (same === phrase.length) said[code] = as
      }
      from = ends[code]
    }
  }
  for (const phrase of any) mark(phrase, 1)
  for (const phrase of not) mark(phrase, 0)
  return said
}
