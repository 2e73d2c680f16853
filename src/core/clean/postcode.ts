import { fold } from './fold'

/** A postcode in its comparable form, without spaces. */
export const closePostcode = (postcode: string): string => fold(postcode).replaceAll(' ', '')

/** What a postcode is to begin with, and how long its outward part then is; null where that tells nothing. */
interface Beginning {
  start: string
  outward: number | null
}

/**
 * `PW1` is the district PW1 and not PW12; `PW1 1` is a sector of it and not the district PW11: where a blank parts a British postcode,
 * what stands before it is the whole outward part, and without one a beginning that ends in a digit is.
 */
function beginningOf(typed: string): Beginning {
  const start = closePostcode(typed)
  const [, outward] = /^([a-z]{1,2}\d[a-z\d]?) (\d[a-z]{0,2})$/.exec(fold(typed)) ?? []
  return { start, outward: outward ? outward.length : /^[a-z]+\d+$/.test(start) ? start.length : null }
}

function begins(postcode: string, { start, outward }: Beginning): boolean {
  if (!postcode.startsWith(start)) return false
  return outward === null || postcode.length === outward || postcode.length - outward === 3
}

/** Whether a postcode in its comparable form begins with any of some, as they are typed. */
export function postcodeTest(typed: readonly string[]): (close: string) => boolean {
  const starts = typed.map(beginningOf).filter(({ start }) => start !== '')
  return (close) => starts.some((beginning) => begins(close, beginning))
}
