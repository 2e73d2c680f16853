/**
 * A cell that a spreadsheet will not take for a formula: one that begins with = + - @ tab or return gets an apostrophe
 * in front. Source: OWASP, CSV Injection. A plain number keeps its sign: phone numbers in E.164 stay as they are.
 */
export function safeCell(cell: string): string {
  return /^[=+\-@\t\r]/.test(cell) && !/^[+-]?[\d .]+$/.test(cell) ? `'${cell}` : cell
}
