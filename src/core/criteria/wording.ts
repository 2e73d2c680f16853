import porter2 from 'wink-porter2-stemmer'
import { fold } from '../clean/fold'

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
