/** One of the five steps from the first file to the first list. */
export interface FirstStep {
  title: string
  what: string
  /** Where it is done; the page of lists where it is done right there. */
  href: string
  act: string
  done: boolean
}
