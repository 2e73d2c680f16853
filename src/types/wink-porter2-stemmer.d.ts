declare module 'wink-porter2-stemmer' {
  /** The stem of an English word in lower case. */
  export default function stem(word: string): string
}
