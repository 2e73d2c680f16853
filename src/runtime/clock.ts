import { readFileSync } from 'node:fs'
import { settings } from './settings'

/** The present instant. With ARCH_CLOCK_FILE set, the one that stands in that file. */
export function now(): Date {
  const file = settings().ARCH_CLOCK_FILE
  if (!file) return new Date()
  try {
    const at = new Date(readFileSync(file, 'utf8').trim())
    return Number.isNaN(at.getTime()) ? new Date() : at
  } catch {
    return new Date()
  }
}
