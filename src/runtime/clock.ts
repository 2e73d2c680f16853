import { readFileSync } from 'node:fs'
import { settings } from './settings'

let pinned: Date | null = null

/** Makes `now` stand still at an instant, or lets it go again; for the demo's past and for tests. */
export function pinClock(at: Date | null): void {
  pinned = at
}

/** The present instant. With ARCH_CLOCK_FILE set, the one that stands in that file. */
export function now(): Date {
  if (pinned) return new Date(pinned)
  const file = settings().ARCH_CLOCK_FILE
  if (!file) return new Date()
  try {
    const at = new Date(readFileSync(file, 'utf8').trim())
    return Number.isNaN(at.getTime()) ? new Date() : at
  } catch {
    return new Date()
  }
}
