import { csvRow } from '../write-csv'
import type { Output } from './output'

/** CSV by RFC 4180, cells safe to open in a spreadsheet. */
export const csv: Output = async ({ heading, rows }) => Buffer.from([heading, ...rows].map((row) => csvRow([...row])).join(''))
