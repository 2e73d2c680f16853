import { createHmac } from 'node:crypto'

/** The word that lets the application in at the engine, made from the shared secret. */
export function engineToken(secret: string): string {
  return createHmac('sha256', secret).update('engine').digest('hex')
}
