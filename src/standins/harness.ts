import { createServer, type IncomingMessage, type Server } from 'node:http'
import { log } from '@/runtime/log'
import { Random } from '@/core/checks/random'

/** How a stand-in behaves as a service somewhere else would. */
export interface Manners {
  /** Milliseconds until it answers, from and to. */
  latency: [number, number]
  /** Requests it takes in any second; more are told to wait. */
  perSecond: number
  /** One request in so many fails, by an error or by a connection that is cut; 0 for none. */
  failsOneIn: number
}

export const USUAL: Manners = { latency: [40, 160], perSecond: 12, failsOneIn: 23 }
/** For tests that are not about how a service behaves. */
export const CALM: Manners = { latency: [0, 0], perSecond: 100_000, failsOneIn: 0 }

export type Route = (body: never) => unknown

/** What a request asked for that cannot be answered: 400 with this sentence. */
export class BadRequest extends Error {}

/**
 * Serves routes by POST of JSON on 127.0.0.1, with these manners. `switched` lets a test turn it off as if it had died:
 * then every connection is cut.
 */
export async function serve(
  routes: Record<string, Route>,
  port: number,
  manners: Manners,
  seed = 7,
): Promise<{ server: Server; port: number; switched: (on: boolean) => void; asked: () => number }> {
  const random = new Random(seed)
  let recent: number[] = []
  let on = true
  let asked = 0
  const server = createServer((request, response) => {
    const answer = (status: number, body: unknown, headers: Record<string, string> = {}) =>
      response.writeHead(status, { 'content-type': 'application/json', ...headers }).end(JSON.stringify(body))
    const take = async () => {
      asked++
      if (!on) return request.socket.destroy()
      const route = routes[request.url ?? '']
      if (!route || request.method !== 'POST') return answer(404, { error: 'no such request' })
      const at = Date.now()
      recent = recent.filter((then) => at - then < 1000)
      if (recent.length >= manners.perSecond) return answer(429, { error: 'too many requests' }, { 'retry-after': '1' })
      recent.push(at)
      const body = await read(request)
      const [least, most] = manners.latency
      if (most > 0) await new Promise((resolve) => setTimeout(resolve, least + random.below(most - least + 1)))
      if (manners.failsOneIn > 0 && random.below(manners.failsOneIn) === 0)
        return random.chance(0.5) ? answer(503, { error: 'out of order for a moment' }) : request.socket.destroy()
      return answer(200, route(body as never))
    }
    take().catch((error) => answer(error instanceof BadRequest || error instanceof SyntaxError ? 400 : 500, { error: error.message }))
  })
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', resolve)
  })
  const address = server.address() as { port: number }
  log.debug({ port: address.port }, 'a stand-in is there')
  return { server, port: address.port, switched: (value) => (on = value), asked: () => asked }
}

const LARGEST = 1_000_000

async function read(request: IncomingMessage): Promise<unknown> {
  const parts: Buffer[] = []
  let size = 0
  for await (const part of request) {
    size += (part as Buffer).length
    if (size > LARGEST) throw new BadRequest('the request is too large')
    parts.push(part as Buffer)
  }
  return JSON.parse(Buffer.concat(parts).toString('utf8') || '{}')
}
