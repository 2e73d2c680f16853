import { createHmac } from 'node:crypto'
import { settings } from '@/runtime/settings'

/**
 * The key of an address or number: HMAC-SHA-256 (RFC 2104) of its channel and normalised form. It tells whether two
 * are the same without telling what they are, so a suppression can outlive the erasure of what it was made for.
 */
export function addressKey(channel: 'email' | 'phone' | 'post', normal: string): Buffer {
  return keyed(`${channel}:${normal}`)
}

/** The key of an e-mail domain in small letters. */
export const domainKey = (domain: string): Buffer => keyed(`domain:${domain}`)

/** The key of an organisation, by the comparable form of its name. */
export const organisationKeyOf = (nameKey: string): Buffer => keyed(`organisation:${nameKey}`)

let secret: { of: string; key: Buffer } | null = null

/** The HMAC of a text under the application's secret. */
export function keyed(text: string): Buffer {
  const { ARCH_SECRET } = settings()
  if (secret?.of !== ARCH_SECRET) secret = { of: ARCH_SECRET, key: createHmac('sha256', ARCH_SECRET).update('address').digest() }
  return createHmac('sha256', secret.key).update(text).digest()
}

/** What can be shown of an address or number without telling it whole. */
export function hintOf(channel: 'email' | 'phone', value: string): string {
  if (channel === 'phone') return `…${value.slice(-4)}`
  const [local, domain] = value.split('@')
  return `${local.slice(0, 1)}…@${domain ?? ''}`
}
