import { useRef } from 'react'

/** Seconds in words, rounded up: nobody minds that it was quicker. */
export function timeText(seconds: number): string {
  if (seconds < 60) return `${Math.max(5, Math.ceil(seconds / 5) * 5)} seconds`
  const minutes = Math.ceil(seconds / 60)
  return minutes === 1 ? 'a minute' : `${minutes} minutes`
}

/** Watched for less than this nothing is said of how long it takes, in milliseconds. */
const WATCHED = 4000

/** The seconds that work has left, by how fast it went while this page watched it; null until that can be told. */
export function useTimeLeft(done: number, total: number | null): number | null {
  const first = useRef<{ done: number; at: number } | null>(null)
  if (total === null || done >= total) return null
  if (done > 0) first.current ??= { done, at: Date.now() }
  const since = first.current
  if (!since || done === since.done || Date.now() - since.at < WATCHED) return null
  return ((Date.now() - since.at) / 1000 / (done - since.done)) * (total - done)
}
