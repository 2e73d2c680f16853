import { told } from './answer'

/** What is there already and what comes after it, a line of JSON each (NDJSON). Where the second cannot be had, its line says why. */
export function inParts(first: unknown, rest: () => Promise<unknown>): Response {
  const encoder = new TextEncoder()
  const line = (value: unknown) => encoder.encode(`${JSON.stringify(value)}\n`)
  let gone = false
  const stream = new ReadableStream({
    async start(controller) {
      controller.enqueue(line(first))
      const second = await rest().catch((error) => {
        const { message, status } = told(error)
        return { error: message, status }
      })
      // Whoever asked may have asked again meanwhile, and reads this no more.
      if (gone) return
      controller.enqueue(line(second))
      controller.close()
    },
    cancel() {
      gone = true
    },
  })
  return new Response(stream, { headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' } })
}
