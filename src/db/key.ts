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
export function hintOf(channel: 'email' | 'phone', value: string): string {
  if (channel === 'phone') return `…${value.slice(-4)}`
  const [local, domain] = value.split('@')
  return `${local.slice(0, 1)}…@${domain ?? ''}`
}
