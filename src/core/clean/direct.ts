import { isDomainValid } from '@hapi/address'
import { asciiDomain } from './domain'
import type { CleanAddress } from './email'
import { squeeze } from './name'

/** Parts of a link that tell where a reader came from and nothing of whose profile it is (common practice, no source). */
const TRACKING = /^(utm_\w+|ref|source|trk|fbclid|gclid)$/i

/**
 * Where a direct message goes: the link to a profile, or a handle such as @name. A link has https, its host in small letters
 * without www, no fragment, no trailing slash and no parameters that only track. @name@host is the profile of that name at that
 * host (RFC 7565 names accounts so; that it stands under /@name is common practice, no source). `normal` has small letters
 * throughout: two spellings of one profile are the same. Null where the cell is empty.
 */
export function cleanDirect(raw: string): CleanAddress | null {
  const text = squeeze(raw)
    .replace(/^['’‘]+(?=@)/, '')
    .replace(/^<|>$/g, '')
  if (text === '' || /^(n\/?a|none|nil|-+|unknown)$/i.test(text)) return null
  const bad = (why: string): CleanAddress => ({ usable: false, value: text, normal: text.toLowerCase(), why })
  const good = (value: string): CleanAddress => ({ usable: true, value, normal: value.toLowerCase() })
  if (/^@[\p{L}\p{N}][\p{L}\p{N}._-]{0,99}$/u.test(text)) return good(text)
  const account = /^(?:acct:|@)([\p{L}\p{N}._-]{1,100})@([^\s@/]+)$/u.exec(text)
  if (account) {
    const host = asciiDomain(account[2].toLowerCase())
    return host === null || !isDomainValid(host) ? bad('behind the second @ there is no host') : good(`https://${host}/@${account[1]}`)
  }
  if (/\s/.test(text)) return bad('it has a space')
  if (/^[^/]*@/.test(text) || /^(mailto|tel):/i.test(text)) return bad('it is an email or a phone')
  const url = URL.canParse(/^https?:\/\//i.test(text) ? text : `https://${text}`)
    ? new URL(/^https?:\/\//i.test(text) ? text : `https://${text}`)
    : null
  if (url === null || url.username !== '' || !isDomainValid(url.hostname))
    return bad('it is neither the link to a profile nor a handle such as @name')
  for (const key of [...url.searchParams.keys()]) if (TRACKING.test(key)) url.searchParams.delete(key)
  const path = `${url.pathname.replace(/\/+$/, '')}${url.search}`
  if (path === '') return bad('the link leads to a website, not to a profile on it')
  return good(`https://${url.hostname.replace(/^www\./, '')}${path}`)
}
