import { db } from '@/db/connection'
import { askEngine } from '@/engine/client'
import { workerUp } from '@/db/work/beat'

export interface Health {
  ok: boolean
  database: 'up' | 'down'
  worker: 'up' | 'down'
  engine: 'up' | 'starting' | 'down'
}

/** A worker that was not heard for longer than this is down, in seconds. */
const SILENCE = 10

/** Whether the database, the job worker and the engine are there. Tells nothing else, so anybody may ask. */
export async function health(): Promise<Health> {
  const worker = await workerUp(db(), SILENCE)
  const engine = await askEngine('health', {})
    .then((h) => (h.ready ? ('up' as const) : ('starting' as const)))
    .catch(() => 'down' as const)
  return { ok: worker === 'up' && engine === 'up', database: worker === null ? 'down' : 'up', worker: worker ?? 'down', engine }
}
