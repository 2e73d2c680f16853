import { AsyncLocalStorage } from 'node:async_hooks'

/** Set for whatever runs inside a transaction of the application's pool. */
const inside = new AsyncLocalStorage<true>()

/** Runs work as part of a transaction, so that calls to other processes inside it are found out. */
export const runInside = <T>(work: () => T): T => inside.run(true, work)

/**
 * Throws where a transaction is open: what is asked for could hold its locks for as long as it takes.
 * @example outsideOfTransactions('the engine is asked')
 */
export function outsideOfTransactions(what: string): void {
  if (inside.getStore()) throw new Error(`${what} inside a transaction, whose locks would wait for it`)
}

/** Runs work beside the open transaction: it goes through connections of its own, and the transaction does not wait for it. */
export const besideTransaction = <T>(work: () => T): T => inside.exit(work)
