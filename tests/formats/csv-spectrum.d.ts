declare module 'csv-spectrum' {
  export default function spectrum(done: (error: Error | null, data: never) => void): void
}
