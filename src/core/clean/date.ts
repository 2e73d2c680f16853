import { isValid, parse } from 'date-fns'
import { squeeze } from './name'

const FORMS = [
  'yyyy-MM-dd',
  'yyyy-MM-dd HH:mm',
  'dd/MM/yyyy',
  'dd/MM/yyyy HH:mm',
  'dd-MM-yyyy',
  'd MMM yyyy',
  'd MMMM yyyy',
  'dd.MM.yyyy',
  "yyyy-MM-dd'T'HH:mm",
]

/**
 * A date as people write it, day before month, with or without a time of day: { date: YYYY-MM-DD, time: HH:MM }. The
 * time is null where none is given. Null for anything that is no date, 31 February included.
 */
export function cleanDate(raw: string): { date: string; time: string | null } | null {
  const text = squeeze(raw)
    .replace(/(T\d\d:\d\d):\d\d.*$/, '$1')
    .replace(/( \d\d:\d\d):\d\d$/, '$1')
  for (const form of FORMS) {
    const at = parse(text, form, new Date(2000, 0, 1))
    if (!isValid(at) || at.getFullYear() < 1900) continue
    const two = (n: number) => String(n).padStart(2, '0')
    const date = `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`
    return { date, time: form.includes('HH') ? `${two(at.getHours())}:${two(at.getMinutes())}` : null }
  }
  return null
}
