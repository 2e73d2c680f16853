import type { Actor } from '@/usecases/team/actor'
import { type KnownWords, lookUp } from '@/db/lists/known-words'

/** How long the words are offered before they are looked up again, in milliseconds. They only help with typing. */
const KEPT = 5 * 60_000

let kept: { at: number; words: Promise<KnownWords> } | null = null

/** Returns the words that are used most in the directory. They are read anew after a while. */
export async function knownWords(_actor: Actor): Promise<KnownWords> {
  if (!kept || Date.now() - kept.at > KEPT) {
    const words = lookUp()
    words.catch(() => {
      kept = null
    })
    kept = { at: Date.now(), words }
  }
  return kept.words
}
