declare module 'talisman/metrics/jaro-winkler' {
  export default function jaroWinkler(a: string, b: string): number
}
