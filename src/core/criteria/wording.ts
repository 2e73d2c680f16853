import { stemmer } from 'stemmer'
import { fold } from '../clean/fold'

/**
 * A wording as stems: folded, split into words, each cut to its stem. So *Estates Manager*, *estate management* and
 * *ESTATES-MANAGER* have the same stems. Source of the stems: M. F. Porter, An algorithm for suffix stripping,
 * Program 14(3), 1980.
 */
export function stems(text: string): string[] {
  const folded = fold(text)
  return folded === '' ? [] : folded.split(' ').map((word) => stemmer(word))
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
