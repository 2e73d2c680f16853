import { createHmac } from 'node:crypto'
import { LRUCache } from 'lru-cache'
import { domainOf } from '@/core/clean/domain'
import { firstFold } from '@/core/clean/fold'
import { comparablePostal, type PostalParts, postalKey, secondPostalKey } from '@/core/clean/postal'
import type { Channel } from '@/core/records/channels'
import { settings } from '@/runtime/settings'

/** The keys an address or number is stored with: its own; of an email, its domain's; of a postal address, those of its later comparable forms. */
export interface AddressKeys {
  key: Buffer
  domain_key: Buffer | null
  post_key: Buffer | null
  post_key_3: Buffer | null
}

/** What has keys: an email, phone, profile link or handle in its one form, or the parts of a postal address. */
export type Keyed = { email: string } | { phone: string } | { direct: string } | { postal: PostalParts }

/**
 * Makes the keys of an address or number; every place that stores one or looks one up goes through here. What names no place to
 * deliver to has a key of its own that no suppression is made by.
 */
export function keysOf(of: Keyed): AddressKeys {
  if ('email' in of)
    return {
      key: addressKey('email', of.email),
      domain_key: of.email.includes('@') ? domainKey(domainOf(of.email)) : null,
      post_key: null,
      post_key_3: null,
    }
  if ('phone' in of) return { key: addressKey('phone', of.phone), domain_key: null, post_key: null, post_key_3: null }
  if ('direct' in of) return { key: addressKey('direct', of.direct), domain_key: null, post_key: null, post_key_3: null }
  const { street, town, postcode } = of.postal
  const [first, second, third] = [postalKey(of.postal), secondPostalKey(of.postal), comparablePostal(of.postal)]
  const text = [street, town, postcode].filter((part) => part !== null && part !== '').join(', ')
  const other = (form: string | null, ...before: (string | null)[]) =>
    form === null || before.includes(form) ? null : addressKey('post', form)
  return {
    key: addressKey('post', first ?? `incomplete:${firstFold(text)}`),
    domain_key: null,
    post_key: other(second, first),
    post_key_3: other(third, first, second),
  }
}

/** The keys by which something is suppressed, or is found to be: a postal address has one for each comparable form. */
export function suppressedBy(of: Keyed | { domain: string } | { organisationKey: string }): { channel: string; key: Buffer }[] {
  if ('domain' in of) return [{ channel: 'domain', key: domainKey(of.domain) }]
  if ('organisationKey' in of) return [{ channel: 'organisation', key: organisationKeyOf(of.organisationKey) }]
  const channel = 'email' in of ? 'email' : 'phone' in of ? 'phone' : 'direct' in of ? 'direct' : 'post'
  const { key, post_key, post_key_3 } = keysOf(of)
  return [key, ...(post_key ? [post_key] : []), ...(post_key_3 ? [post_key_3] : [])].map((k) => ({ channel, key: k }))
}

/** A place letters go to: its comparable form, and the keys by which suppressions and letters find it. */
export interface KeyedPlace {
  /** Null where it names no place to deliver to; then it has no keys. */
  form: string | null
  keys: readonly Buffer[]
}

/** So many places are remembered: a round of premises asks for all of its own again and again. */
const places = new LRUCache<string, KeyedPlace>({ max: 50_000 })

/** Returns how an address compares and the keys that suppress it. Results are cached, since many people share an address. */
export function placeOf(postal: PostalParts): KeyedPlace {
  // The keys hang on the secret.
  const text = JSON.stringify([settings().ARCH_SECRET, postal.street, postal.town, postal.postcode])
  const known = places.get(text)
  if (known) return known
  const form = comparablePostal(postal)
  const place = { form, keys: form === null ? [] : suppressedBy({ postal }).map(({ key }) => key) }
  places.set(text, place)
  return place
}

/**
 * The key of an address or number: HMAC-SHA-256 (RFC 2104) of its channel and normalised form. It tells whether two
 * are the same without telling what they are, so a suppression can outlive the erasure of what it was made for.
 */
export function addressKey(channel: Channel, normal: string): Buffer {
  return keyed(`${channel}:${normal}`)
}

/** The key of an email domain in its one form. */
export const domainKey = (domain: string): Buffer => keyed(`domain:${domain}`)

/** The key of an organisation, by the comparable form of its name. */
export const organisationKeyOf = (nameKey: string): Buffer => keyed(`organisation:${nameKey}`)

let secret: { of: string; key: Buffer } | null = null

/** So many keys are remembered: domains and organisations come again and again, and a row is keyed to be found and to be stored. */
const REMEMBERED = 20_000
const remembered = new Map<string, Buffer>()

/** The HMAC of a text under the application's secret. */
export function keyed(text: string): Buffer {
  const { ARCH_SECRET } = settings()
  if (secret?.of !== ARCH_SECRET) {
    secret = { of: ARCH_SECRET, key: createHmac('sha256', ARCH_SECRET).update('address').digest() }
    remembered.clear()
  }
  let key = remembered.get(text)
  if (!key) {
    key = createHmac('sha256', secret.key).update(text).digest()
    if (remembered.size >= REMEMBERED) remembered.clear()
    remembered.set(text, key)
  }
  return key
}

/** What can be shown of an address or number without telling it whole. */
export function hintOf(channel: 'email' | 'phone' | 'direct', value: string): string {
  if (channel === 'direct') return value.startsWith('@') ? `${value.slice(0, 2)}…` : `…@${new URL(value).hostname}`
  if (channel === 'phone') return `…${value.slice(-4)}`
  const [local, domain] = value.split('@')
  return `${local.slice(0, 1)}…@${domain ?? ''}`
}
