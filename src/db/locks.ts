import type { Knex } from 'knex'
import { now } from '@/runtime/clock'

/**
 * The locks of whatever decides who may be contacted, in the one order in which they are taken: the release's turn; the rows of
 * lists; the row of the round; batches; the gate; the rows of people. Nobody waits in a circle, since everybody goes this way
 * round. Rows of people are locked FOR NO KEY UPDATE, since a release writes entries that point at them.
 */
const TURN = `hashtext('release')`
const GATE = `hashtext('suppressions')`
const NAMES = `hashtext('list names')`
const TERRITORIES = `hashtext('territories')`
const DEFAULT = `hashtext('default policy')`

/** One at a time saves a territory, so that no two take one name. Held to the end of the transaction. */
export async function holdTerritories(trx: Knex): Promise<void> {
  await trx.raw(`select pg_advisory_xact_lock(${TERRITORIES})`)
}

/** One at a time makes a policy the team's. Held to the end of the transaction. */
export async function takeDefault(trx: Knex): Promise<void> {
  await trx.raw(`select pg_advisory_xact_lock(${DEFAULT})`)
}

/** One release at a time: waits for the one before. Held to the end of the transaction. */
export async function takeTurn(trx: Knex): Promise<void> {
  await trx.raw(`select pg_advisory_xact_lock(${TURN})`)
}

/**
 * Passes the gate that a release shuts for its last check and its commit, and returns the moment: whoever writes something that
 * decides who may be contacted reads the clock and everything they decide on after this, so that it is either before the
 * release, which then heeds it, or after. Held to the end of the transaction, shared with other writers.
 */
export async function passGate(trx: Knex): Promise<Date> {
  await trx.raw(`select case when current_setting('arch.trial', true) = 'on' then null else pg_advisory_xact_lock_shared(${GATE}) end`)
  return now()
}

/**
 * Says that a transaction is only to find something out and will be given up: what it writes decides nothing, so that it passes no
 * gate, however long it lasts. The database refuses to commit suppressions that were written so.
 */
export async function onlyLooking(trx: Knex): Promise<void> {
  await trx.raw(`set local arch.trial = 'on'`)
}

/** Shuts the gate: waits for the writers that have passed it, keeps the others out to the end of the transaction, returns the moment. */
export async function shutGate(trx: Knex): Promise<Date> {
  await trx.raw(`select pg_advisory_xact_lock(${GATE})`)
  return now()
}

/** Keeps which list names which from being changed by two at once: held by whoever saves lines, shares or takes a list away. */
export async function holdNames(trx: Knex): Promise<void> {
  await trx.raw(`select pg_advisory_xact_lock(${NAMES})`)
}
