import { isGivenName } from '../match/given-names'
import { fold } from './fold'

const capital = (word: string) => word.slice(0, 1).toUpperCase() + word.slice(1)

/**
 * The name that an email address tells: a known given name and another word, set apart by a dot, a hyphen or an underscore, in either
 * order. Null where it is less sure than that: of a post, of initials, of one word (common practice, no source).
 */
export function nameOfEmail(email: string): { given: string; family: string } | null {
  const at = email.lastIndexOf('@')
  const words = (at < 0 ? '' : email.slice(0, at)).trim().toLowerCase().split(/[._-]/)
  if (words.length !== 2 || words.some((word) => !/^\p{L}{2,}$/u.test(word))) return null
  const [first, second] = words.map((word) => isGivenName(fold(word)))
  // Where both could be given names the usual order stands.
  if (first) return { given: capital(words[0]), family: capital(words[1]) }
  return second ? { given: capital(words[1]), family: capital(words[0]) } : null
}
