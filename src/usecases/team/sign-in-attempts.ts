import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { db } from '@/db/connection'
import { keyed } from '@/db/key'
import { settings } from '@/runtime/settings'
import { Refused } from './actor'
import { deleteOldFailures, insertFailure, lockAttempts, MINUTES, recentFailures } from '@/db/team/sign-in-attempts'

/** So many tries in a quarter of an hour that did not succeed, and the next has to wait. */
const MOST = 8

/** Where a try comes from: a browser that signed in for this email before, by its mark, and the address, where it is known. */
export interface From {
  mark?: string
  address: string | null
}

const normal = (email: string) => email.trim().toLowerCase()

const proof = (email: string, nonce: string) =>
  createHmac('sha256', settings().ARCH_SECRET)
    .update(`browser:${normal(email)}:${nonce}`)
    .digest()

/**
 * The mark a browser keeps once somebody signed in there. Its tries are counted apart, so that whoever tries an email from elsewhere
 * does not lock its owner out (OWASP, Slow Down Online Guessing Attacks with Device Cookies; from memory).
 */
export function markOf(email: string): string {
  const nonce = randomBytes(12).toString('hex')
  return `${nonce}.${proof(email, nonce).toString('hex')}`
}

function known(email: string, mark: string | undefined): string | null {
  const [nonce, given] = /^[0-9a-f]{24}\.[0-9a-f]{64}$/.test(mark ?? '') ? (mark as string).split('.') : []
  return nonce && given && timingSafeEqual(proof(email, nonce), Buffer.from(given, 'hex')) ? nonce : null
}

/**
 * Counts a try to sign in before it is made, so that tries made at once count one after the other: at most 8 in a quarter of an hour
 * for one email from browsers that are not known, 8 from each that is, 40 from one address. Gives what `succeeded` takes. Throws
 * Refused where there were too many. Keys only: neither the email nor the address is kept.
 */
export async function noteTry(email: string, { mark, address }: From): Promise<number[]> {
  const nonce = known(email, mark)
  const counted = [
    { key: keyed(`sign-in:${normal(email)}${nonce ? `:${nonce}` : ''}`), most: MOST },
    ...(address === null || nonce ? [] : [{ key: keyed(`sign-in-from:${address}`), most: MOST * 5 }]),
  ]
  return db().transaction(async (trx) => {
    const ids: number[] = []
    for (const { key, most } of counted) {
      await lockAttempts(trx, key)
      const rows = await recentFailures(trx, key)
      if (rows[0].n >= most) throw new Refused(`Too many attempts. Wait ${MINUTES} minutes, then try again.`, 'not allowed')
      ids.push((await insertFailure(trx, key))[0].id)
    }
    await deleteOldFailures(trx)
    return ids
  })
}
