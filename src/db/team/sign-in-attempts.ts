import { db } from '@/db/connection'

/** A right password takes its own try out of the count, and no other: who guesses elsewhere goes on being counted. */
export async function succeeded(tried: number[]): Promise<void> {
  await db()('sign_in_failure').whereIn('id', tried).delete()
}
