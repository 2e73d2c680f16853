/** Signs a formula can begin with, in their full-width forms too. */
const SIGN = '[=+\\-@＝＋－＠]'
/** Blanks of any kind, marks nobody sees and line ends, which some programs skip before they look. */
const SKIPPED = '[\\s\\p{Cf}\\p{Cc}]*'
const LEADS = new RegExp(`^(?:${SKIPPED}${SIGN}|[\\t\\r\\n])`, 'u')
/** Where a program of another locale, or a line read by itself, would begin a cell in the middle of ours. */
const WITHIN = new RegExp(`([;\\t\\r\\n|]${SKIPPED})(?=${SIGN})`, 'gu')
const NUMBER = /^[+-]?[\d .,]+$/

/**
 * Returns a cell that no spreadsheet takes for a formula, whatever its locale separates cells by: one that begins with = + - @ (in
 * full width, too), a tab or a line end gets an apostrophe in front, and so does each such sign behind a semicolon, tab, bar or
 * line end within it. Source: OWASP, CSV Injection. A plain number keeps its sign: phone numbers in E.164 stay as they are.
 */
export function safeCell(cell: string): string {
  if (NUMBER.test(cell)) return cell
  const within = cell.replace(WITHIN, "$1'")
  return LEADS.test(within) ? `'${within}` : within
}

const PUT = new RegExp(`([;\\t\\r\\n|]${SKIPPED})'(?=${SIGN})`, 'gu')

/**
 * Returns what a cell was before `safeCell`. One that had such an apostrophe of its own loses it, since nothing tells the two apart.
 * @example unsafeCell("'=1+1") // '=1+1'
 */
export function unsafeCell(cell: string): string {
  const within = cell.replace(PUT, '$1')
  return [within.replace(/^'/, ''), within].find((own) => safeCell(own) === cell) ?? cell
}
