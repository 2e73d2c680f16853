import { isDomainValid } from '@hapi/address'
import { squeeze } from './name'

/**
 * A web address in its usual form (WHATWG URL): https where no scheme is given, the host in small letters, no trailing
 * slash, no fragment. Null where empty, `undefined` where it is none that leads to a website.
 */
export function cleanWebsite(raw: string): string | null | undefined {
  const text = squeeze(raw).replace(/^<|>$/g, '')
  if (text === '') return null
  let url: URL
  try {
    url = new URL(/^[a-z][a-z\d+.-]*:\/\//i.test(text) ? text : `https://${text}`)
  } catch {
    return undefined
  }
  if ((url.protocol !== 'https:' && url.protocol !== 'http:') || url.username !== '' || /\s|@/.test(text) || !isDomainValid(url.hostname))
    return undefined
  url.hash = ''
  return url.href.replace(/\/$/, '')
}

/** The domain of a website in its usual form, without a leading www. */
export function cleanWebsiteDomain(website: string): string | null {
  const host = URL.canParse(website) ? new URL(website).hostname : ''
  return host.replace(/^www\./, '') || null
}
