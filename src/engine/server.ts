import { timingSafeEqual } from 'node:crypto'
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { Knex } from 'knex'
import { log } from '@/runtime/log'
import {
  answerBalances,
  answerCompare,
  answerFind,
  answerList,
  answerMembers,
  answerRelease,
  answerRequalify,
  answerScreen,
  type Sources,
  type Unmarked,
} from './answer'
import { answerAlike, answerGroup, answerMap, answerPresence, answerProfile, answerStreets } from './answer-about'
import { Areas } from './areas'
import { FrozenRounds } from './frozen-rounds'
import { Looks } from './looks'
import { PickSets } from './pick-sets'
import { makeReady } from './make-ready'
import type { EngineHealth, Protocol } from './protocol'
import { ReadModel } from './read-model'
import { engineToken } from './token'

/** A request as it came; only the application, which holds the token, can send one. */
type Body = { [V in keyof Protocol]: Protocol[V][0] }[keyof Protocol] & { screen?: string }

/** How long a request waits for the database before it is answered from what is there, in milliseconds. */
const PATIENCE = 2000
/** A release is decided by the database in any case and rather waits, in milliseconds. */
const PATIENCE_OF_RELEASE = 30_000

/** Serves accounts over HTTP on loopback. Resolves once it listens; the directory is read in the background. */
export async function serveEngine(
  db: Knex,
  port: number,
  secret: string,
): Promise<{ server: Server; model: ReadModel; close: () => Promise<void> }> {
  const model = new ReadModel(db)
  const sources: Sources = { model, rounds: new FrozenRounds(db), picks: new PickSets(db), areas: new Areas(db), looks: new Looks() }
  const newest = new Map<string, number>()
  const token = Buffer.from(engineToken(secret))
  let arrivals = 0

  const server = createServer(async (request, response) => {
    const given = Buffer.from(String(request.headers['x-arch-engine'] ?? ''))
    if (given.length !== token.length || !timingSafeEqual(given, token)) return reply(response, 403, { error: 'not for you' })
    const verb = (request.url ?? '').slice(1) as keyof Protocol
    try {
      if (verb === 'health') return reply(response, 200, health(model))
      const body = await read(request)
      const arrival = ++arrivals
      if (body.screen) {
        newest.set(body.screen, arrival)
        if (newest.size > 5000) newest.delete(newest.keys().next().value as string)
      }
      const behind = await heard(model, verb === 'release' ? PATIENCE_OF_RELEASE : PATIENCE)
      if (!model.ready) return reply(response, 503, { error: 'the engine is still reading the directory' })
      if (request.socket.destroyed || (body.screen && newest.get(body.screen) !== arrival))
        return reply(response, 409, { error: 'a newer request of this screen came' })
      reply(response, 200, { behind, ...(await answer(verb, body, sources)) })
    } catch (error) {
      log.error({ verb, message: (error as Error).message }, 'engine request failed')
      reply(response, 500, { error: (error as Error).message })
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

/** What answers each question. */
const ANSWERS: {
  [V in Exclude<keyof Protocol, 'health'>]: (sources: Sources, request: Protocol[V][0]) => Promise<Unmarked<Protocol[V][1]>>
} = {
  list: answerList,
  find: answerFind,
  members: answerMembers,
  balances: answerBalances,
  compare: answerCompare,
  screen: answerScreen,
  requalify: answerRequalify,
  release: answerRelease,
  group: answerGroup,
  presence: answerPresence,
  profile: answerProfile,
  alike: answerAlike,
  map: answerMap,
  streets: answerStreets,
}

function answer(verb: keyof Protocol, body: Body, sources: Sources): Promise<object> {
  if (verb === 'health' || !Object.hasOwn(ANSWERS, verb)) throw new Error(`the engine knows no ${String(verb)}`)
  return ANSWERS[verb](sources, body as never)
}

function health(model: ReadModel): EngineHealth {
  return {
    ready: model.ready,
    people: model.ready ? model.columns.live.count() : 0,
    heardAt: model.heardAt,
    memory: process.memoryUsage.rss(),
  }
}

async function read(request: IncomingMessage): Promise<Body> {
  const chunks: Buffer[] = []
  for await (const chunk of request) chunks.push(chunk as Buffer)
  return JSON.parse(Buffer.concat(chunks).toString('utf8')) as Body
}

function reply(response: ServerResponse, status: number, body: unknown): void {
  if (response.destroyed) return
  response.writeHead(status, { 'content-type': 'application/json' })
  response.end(JSON.stringify(body))
}
