import { told } from './answer'

/** What is there already and what comes after it, a line of JSON each (NDJSON). Where the second cannot be had, its line says why. */
export function inParts(first: unknown, rest: () => Promise<unknown>): Response {
  const encoder = new TextEncoder()
  const line = (value: unknown) => encoder.encode(`${JSON.stringify(value)}\n`)
  const stream = new ReadableStream({
    async start(controller) {
      controller.enqueue(line(first))
      try {
        controller.enqueue(line(await rest()))
      } catch (error) {
        const { message, status } = told(error)
        controller.enqueue(line({ error: message, status }))
      }
      controller.close()
    },
  })
  return new Response(stream, { headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' } })
}
