import { afterAll } from 'vitest'
import { serveEngine } from '@/engine/server'
import { settings } from '@/runtime/settings'
import type { TestDatabase } from './database'

/** The real engine over a test database, reached over HTTP as the application reaches it. */
export async function startEngine(t: TestDatabase) {
  const { ENGINE_PORT, ARCH_SECRET } = settings()
  const engine = await serveEngine(t.app, ENGINE_PORT, ARCH_SECRET)
  await engine.model.catchUp()
  afterAll(() => engine.close())
  return engine
}
