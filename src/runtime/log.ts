import { pino } from 'pino'
import { settings } from './settings'

/** Structured log. Ids and counts only: no names, addresses or numbers of anybody. */
export const log = pino({ level: settings().ARCH_LOG, base: { process: process.env.ARCH_PROCESS ?? 'app' } })
