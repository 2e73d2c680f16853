/** What keeps a cell in view when the table is moved sideways. */
export type Pinned = { className?: string; style?: { left: number } }

/** A column of a table, beside the name of its records. */
export interface Column {
  key: string
  title: string
  /** Whether it holds figures, which stand to the right. */
  figures?: true
  /** Whether a narrow leaf leaves it out. */
  wideOnly?: true
}
