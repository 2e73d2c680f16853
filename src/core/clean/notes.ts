import { squeeze } from './name'

/** What cleaning did to a value of a row, or what is doubtful about it. Nothing of what came is lost: the raw value is here and in the row. */
export interface Note {
  field: string
  raw: string
  value: string
  what: string
  /** Whether somebody should look at it. */
  doubt: boolean
}

/** What was done to make one value of another, in words; null where they are the same but for blanks around and within. */
export function whatWasDone(raw: string, value: string): string | null {
  if (raw === value || raw.trim().replace(/\s+/g, ' ') === value) return null
  const text = squeeze(raw)
  if (text === value) return 'invisible characters taken off'
  if (text.toLowerCase() === value.toLowerCase()) return value === value.toLowerCase() ? 'put in small letters' : 'capitals mended'
  return 'tidied'
}
