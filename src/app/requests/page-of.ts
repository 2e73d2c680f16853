import { notFound } from 'next/navigation'
import { Refused } from '@/usecases/team/actor'

/** What a page is drawn from; what does not exist or is not for this person is not found. */
export async function pageOf<T>(work: Promise<T>): Promise<T> {
  try {
    return await work
  } catch (error) {
    if (error instanceof Refused) notFound()
    throw error
  }
}

/** A number from a path, or not found. */
export function idOf(text: string): number {
  return /^\d{1,15}$/.test(text) ? Number(text) : notFound()
}
