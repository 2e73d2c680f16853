import providers from 'email-providers/all.json'
import common from 'email-providers/common.json'
import { distance } from 'fastest-levenshtein'
import mailchecker from 'mailchecker'
import roleNames from 'role-based-email-addresses'
import { domainOf } from './domain'

export interface EmailTraits {
  /** Whose it is: an address at a provider that anybody can have one of is personal. */
  kind: 'work' | 'personal'
  /** Read by whoever holds a post and not by one person: info@, sales@. */
  roleAccount: boolean
  /** At a provider of addresses that are thrown away. */
  disposable: boolean
  /** The address as it was likely meant, where its domain is one slip from a well-known provider's; offered and never put in by itself. */
  likely: string | null
}

/** Reserved for examples (RFC 2606), whatever lists of providers say. */
const RESERVED = /(^|\.)(example\.(com|net|org)|example|test|invalid|localhost)$/
const disposable = mailchecker.blacklist()
const personal = new Set(providers.filter((domain) => !disposable.has(domain)))
/** Domains at which anybody can have an address, but for those that are reserved for examples. */
export const PERSONAL_DOMAINS: readonly string[] = [...personal].filter((domain) => !RESERVED.test(domain))
/** Whether a domain is a mail provider's at which anybody can have an address. */
export const isForEverybody = (domain: string): boolean => personal.has(domain) && !RESERVED.test(domain)
const known = common.filter((domain) => domain.length >= 7 && personal.has(domain))
/** Posts that the list of the package lacks and that those we write to have (common practice, no source). */
const OURS =
  /^(estates?|facilities|premises|buildings?|caretaker|bursar|head|secretary|clerk|surgery|school)([._-]?(office|manager|team|desk))?$/
const roles = new Set<string>(roleNames)

/** What can be told of a clean email address by looking at it. Nothing is looked up. */
export function emailTraits(address: string): EmailTraits {
  const domain = domainOf(address)
  const [box] = address.slice(0, address.length - domain.length - 1).split('+')
  const reserved = RESERVED.test(domain)
  return {
    kind: !reserved && personal.has(domain) ? 'personal' : 'work',
    roleAccount: OURS.test(box) || roles.has(box.replace(/[._]/g, '-')) || roles.has(box.replace(/[._-]/g, '')),
    disposable: !reserved && disposable.has(domain),
    likely: reserved ? null : likelyMeant(address, domain),
  }
}

function likelyMeant(address: string, domain: string): string | null {
  if (personal.has(domain)) return null
  const near = known.find((provider) => isSlip(domain, provider))
  return near ? address.slice(0, -domain.length) + near : null
}

/** One letter too many, too few or another one, or two that changed places. */
function isSlip(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1) return false
  if (distance(a, b) === 1) return true
  if (a.length !== b.length) return false
  const at = [...a].findIndex((letter, i) => letter !== b[i])
  return at >= 0 && a[at] === b[at + 1] && a[at + 1] === b[at] && a.slice(at + 2) === b.slice(at + 2)
}
