/** A table to be written: its headings, and its rows as texts. `of` is which column of the released file each of its columns is. */
export interface Table {
  title: string
  of: readonly string[]
  heading: readonly string[]
  rows: readonly string[][]
  /** An instant that is written into the file where its format wants one, so that the same table gives the same bytes. */
  at: Date
}

/** Writes a table as a file. The same table gives the same bytes. */
export type Output = (table: Table) => Promise<Buffer>
