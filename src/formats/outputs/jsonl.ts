import type { Output } from './output'

/** JSON Lines: an object a line, by the headings; what is empty is null. */
export const jsonl: Output = async ({ heading, rows }) =>
  Buffer.from(
    rows.map((row) => `${JSON.stringify(Object.fromEntries(heading.map((own, i) => [own, row[i] === '' ? null : row[i]])))}\n`).join(''),
  )
