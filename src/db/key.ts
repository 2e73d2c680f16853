import { createHmac } from 'node:crypto'
import { settings } from '@/runtime/settings'

/**
 * The key of an address or number: HMAC-SHA-256 (RFC 2104) of its channel and normalised form. It tells whether two
 * are the same without telling what they are, so a suppression can outlive the erasure of what it was made for.
 */
export function addressKey(channel: 'email' | 'phone' | 'post', normal: string): Buffer {
  const secret = createHmac('sha256', settings().ARCH_SECRET).update('address').digest()
  return createHmac('sha256', secret).update(`${channel}:${normal}`).digest()
}

/** What can be shown of an address or number without telling it whole. */
export function hintOf(channel: 'email' | 'phone', value: string): string {
  if (channel === 'phone') return `…${value.slice(-4)}`
  const [local, domain] = value.split('@')
  return `${local.slice(0, 1)}…@${domain ?? ''}`
}
