declare module 'parse-full-name' {
  export interface ParsedName {
    title: string
    first: string
    middle: string
    last: string
    nick: string
    suffix: string
    error: string[]
  }
  export function parseFullName(name: string, part?: 'all', fixCase?: 0 | 1 | -1): ParsedName
}
