import { destination, pino } from 'pino'

/** Structured log, on standard error. Ids and counts only: no names, addresses or numbers of anybody. */
export const log = pino({ level: process.env.ARCH_LOG ?? 'info', base: { process: process.env.ARCH_PROCESS ?? 'app' } }, destination(2))
