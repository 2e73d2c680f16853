import type { ActionResult } from '@/core/views/action-result'
import { headers } from 'next/headers'
import { ValidationError } from 'yup'
import { troubleOf } from '@/db/trouble'
import { EngineAway } from '@/engine/client'
import { log } from '@/runtime/log'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from '@/usecases/team/actor'
import { Malformed, type Shape, type Whole, wholeOf } from './asked'
import { actorOrNull } from './auth'

const STATUS = { 'not allowed': 403, 'not found': 404, 'not possible': 409 } as const

/** Runs a request for whoever is signed in. What was refused comes back as its sentence; what broke is logged by kind. */
export async function answer(request: Request, work: (actor: Actor) => Promise<unknown>): Promise<Response> {
  if (await fromAnotherSite(request.method))
    return Response.json({ error: 'This request came from another site and was not carried out.' }, { status: 403 })
  const who = await actorOrNull()
  if (!who) return Response.json({ error: 'Your session has ended. Sign in again; nothing you saved is lost.' }, { status: 401 })
  try {
    const result = await work(who)
    return keptByNobody(result instanceof Response ? result : Response.json(result ?? {}))
  } catch (error) {
    const { message, status } = told(error)
    return keptByNobody(Response.json({ error: message }, { status }))
  }
}

/**
 * Browsers say where a request comes from (W3C Fetch Metadata). Where one does not, a request that may change something has to come
 * with an Origin that is ours (OWASP, Cross-Site Request Forgery Prevention; from memory). Server actions have their own check.
 */
async function fromAnotherSite(method: string): Promise<boolean> {
  const given = await headers()
  const site = given.get('sec-fetch-site')
  if (site !== null) return site !== 'same-origin' && site !== 'none'
  if (method === 'GET' || method === 'HEAD') return false
  const origin = given.get('origin')
  const { ARCH_URL } = settings()
  return (
    origin === null ||
    !URL.canParse(origin) ||
    (new URL(origin).host !== given.get('host') && new URL(origin).origin !== (ARCH_URL && new URL(ARCH_URL).origin))
  )
}

/** What holds anybody's data is kept by nobody on the way. */
function keptByNobody(response: Response): Response {
  if (!response.headers.has('cache-control')) response.headers.set('cache-control', 'no-store')
  return response
}

const TROUBLE = {
  full: 'The database disk is full. Nothing was changed, and nothing was lost. Free some space, then try again.',
  away: 'The database is not responding. Check whether your change was saved, then try again in a minute.',
}

/** What a person is told of an error, and the HTTP status that goes with it. */
export function told(error: unknown): { message: string; status: number } {
  if (error instanceof Refused) return { message: error.message, status: STATUS[error.kind] }
  if (error instanceof ValidationError) return { message: error.errors.join(' '), status: 422 }
  if (error instanceof EngineAway) return { message: error.message, status: error.why === 'overtaken' ? 409 : 503 }
  if (error instanceof SyntaxError || error instanceof Malformed)
    return { message: error instanceof Malformed ? error.message : new Malformed().message, status: 400 }
  if ((error as { digest?: string }).digest === 'NEXT_HTTP_ERROR_FALLBACK;404') return { message: 'This page does not exist.', status: 404 }
  // Class 22 of PostgreSQL, data exceptions (PostgreSQL manual, appendix A): what was asked holds a number, a date or letters that cannot be.
  if (/^22/.test((error as { code?: string }).code ?? ''))
    return { message: 'The request holds a number, date or text that cannot be read. Nothing was changed.', status: 400 }
  if ((error as Error).name === 'AbortError') return { message: 'Given up.', status: 499 }
  const trouble = troubleOf(error)
  if (trouble) {
    log.error({ code: (error as { code?: string }).code }, TROUBLE[trouble])
    return { message: TROUBLE[trouble], status: 503 }
  }
  log.error(
    { kind: (error as Error).name, code: (error as { code?: string }).code, stack: (error as Error).stack?.split('\n').slice(1, 5) },
    'a request failed',
  )
  return { message: 'Something went wrong on our side. Nothing was changed; try again.', status: 500 }
}

/**
 * Runs a server action for whoever is signed in, with what it was handed once each of it is of its shape; a refusal comes back as
 * its sentence.
 */
export async function act<const S extends readonly Shape[], T>(
  shapes: readonly [...S],
  given: readonly unknown[],
  work: (actor: Actor, ...whole: Whole<S>) => Promise<T>,
): Promise<ActionResult<T>> {
  const who = await actorOrNull()
  if (!who) return { ok: false, error: 'Your session has ended. Sign in again; nothing you saved is lost.' }
  try {
    return { ok: true, value: await work(who, ...wholeOf(shapes, given)) }
  } catch (error) {
    return { ok: false, error: told(error).message }
  }
}
