/** A readable page as parts with a heading: each a list of sentences, or of what something is called and what it is. */
export interface Section {
  title: string
  lines: (string | [label: string, value: string])[]
}

export interface ReadablePage {
  title: string
  /** Of whom, when and by whom it was made. */
  about: string
  sections: Section[]
}
