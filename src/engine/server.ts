import { timingSafeEqual } from 'node:crypto'
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { Knex } from 'knex'
import { LRUCache } from 'lru-cache'
import { ValidationError } from 'yup'
import { log } from '@/runtime/log'
import { Areas } from './areas'
import { FrozenRounds } from './frozen-rounds'
import { Looks } from './looks'
import { PickSets } from './pick-sets'
import { makeReady } from './make-ready'
import type { EngineHealth } from './protocol'
import { VERBS } from './verbs'
import { ReadModel } from './read-model'
import { engineToken } from './token'
import type { Sources } from './sources'

/** Serves accounts over HTTP on loopback. Resolves once it listens; the directory is read in the background. */
export async function serveEngine(
  db: Knex,
  port: number,
  secret: string,
): Promise<{ server: Server; model: ReadModel; close: () => Promise<void> }> {
  const model = new ReadModel(db)
  const sources: Sources = { model, rounds: new FrozenRounds(db), picks: new PickSets(db), areas: new Areas(db), looks: new Looks() }
  const newest = new LRUCache<string, number>({ max: 5000 })
  const token = Buffer.from(engineToken(secret))
  let arrivals = 0

  const server = createServer(async (request, response) => {
    const given = Buffer.from(String(request.headers['x-arch-engine'] ?? ''))
    if (given.length !== token.length || !timingSafeEqual(given, token)) return reply(response, 403, { error: 'not for you' })
    const name = (request.url ?? '').slice(1)
    try {
      if (name === 'health') return reply(response, 200, health(model))
      const verb = verbOf(name)
      if (!verb) return reply(response, 404, { error: `the engine knows no ${name}` })
      const body: unknown = JSON.parse(await textOf(request))
      const arrival = ++arrivals
      const screen = screenOf(body)
      if (screen) newest.set(screen, arrival)
      const behind = await heard(model, verb.patience)
      if (!model.ready) return reply(response, 503, { error: 'the engine is still reading the directory' })
      if (request.socket.destroyed || (screen && newest.get(screen) !== arrival))
        return reply(response, 409, { error: 'a newer request of this screen came' })
      reply(response, 200, { behind, ...(await verb.answer(sources, body)) })
    } catch (error) {
      const { message } = error as Error
      const malformed = error instanceof ValidationError || error instanceof SyntaxError
      log[malformed ? 'warn' : 'error']({ verb: name, message }, 'engine request failed')
      reply(response, malformed ? 400 : 500, { error: message })
    }
  })
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(port, '127.0.0.1', resolve))
  model.catchUp().then(
    () => {
      log.info({ people: model.columns.size }, 'engine is ready')
      return makeReady(model)
    },
    (error) => log.error({ message: error.message }, 'engine could not read the directory yet'),
  )
  const close = () =>
    new Promise<void>((resolve) => {
      server.close(() => resolve())
      server.closeAllConnections()
    })
  return { server, model, close }
}

/** Waits until the database was heard, or gives the instant of the last time once patience runs out. */
async function heard(model: ReadModel, patience: number): Promise<number | null> {
  let timer: NodeJS.Timeout | undefined
  const late = new Promise<'late'>((resolve) => (timer = setTimeout(() => resolve('late'), patience)))
  try {
    const outcome = await Promise.race([model.catchUp(), late])
    return outcome === 'late' ? model.heardAt : null
  } catch (error) {
    log.warn({ message: (error as Error).message }, 'the database could not be heard')
    return model.heardAt
  } finally {
    clearTimeout(timer)
  }
}

function health(model: ReadModel): EngineHealth {
  return {
    ready: model.ready,
    people: model.ready ? model.columns.live.count() : 0,
    heardAt: model.heardAt,
    memory: process.memoryUsage.rss(),
  }
}

async function textOf(request: IncomingMessage): Promise<string> {
  const chunks: Buffer[] = []
  for await (const chunk of request) chunks.push(chunk as Buffer)
  return Buffer.concat(chunks).toString('utf8')
}

const verbOf = (name: string) => Object.entries(VERBS).find(([known]) => known === name)?.[1]

/** The screen that asks, of which only the newest request is worth an answer; null where it does not say. */
const screenOf = (body: unknown): string | null =>
  typeof body === 'object' && body !== null && 'screen' in body && typeof body.screen === 'string' ? body.screen : null

function reply(response: ServerResponse, status: number, body: unknown): void {
  if (response.destroyed) return
  response.writeHead(status, { 'content-type': 'application/json' })
  response.end(JSON.stringify(body))
}
