import { log } from '@/runtime/log'
import { outsideOfTransactions } from '@/runtime/inside-transaction'
import { settings } from '@/runtime/settings'
import type { Protocol } from './protocol'
import { engineToken } from './token'

/** The engine cannot answer now: it is starting, gone, or a newer request of the same screen took over. */
export class EngineAway extends Error {
  constructor(
    readonly why: 'starting' | 'away' | 'overtaken',
    message: string,
  ) {
    super(message)
    this.name = 'EngineAway'
  }
}

/** Asks the engine. Throws EngineAway when it has no answer, AbortError when the caller gave up. */
export async function askEngine<V extends keyof Protocol>(verb: V, request: Protocol[V][0], signal?: AbortSignal): Promise<Protocol[V][1]> {
  outsideOfTransactions('the engine is asked')
  const { ENGINE_PORT, ARCH_SECRET } = settings()
  let response: Response
  try {
    response = await fetch(`http://127.0.0.1:${ENGINE_PORT}/${verb}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-arch-engine': engineToken(ARCH_SECRET) },
      body: JSON.stringify(request),
      signal,
      cache: 'no-store',
    })
  } catch (error) {
    if ((error as Error).name === 'AbortError') throw error
    log.warn({ verb }, 'the engine is away')
    throw new EngineAway('away', 'The figures are being recalculated and will be back in a moment. Nothing you entered is lost.')
  }
  if (response.status === 503) throw new EngineAway('starting', 'The directory is still loading. The figures will appear in a moment.')
  if (response.status === 409) throw new EngineAway('overtaken', 'A newer change is being worked out.')
  const body = await response.json()
  if (!response.ok) throw new Error(`engine: ${body.error}`)
  return body
}
