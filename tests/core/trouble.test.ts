import { expect, test } from 'vitest'
import { troubleOf } from '@/db/trouble'

const error = (message: string, more: object = {}) => Object.assign(new Error(message), more)

test.each([
  // As the drivers of package.json word them.
  [error('Connection terminated unexpectedly')],
  [error('Connection ended unexpectedly')],
  [error('Client has encountered a connection error and is not queryable')],
  [error('Client was closed and is not queryable')],
  [error('timeout exceeded when trying to connect')],
  [error('Knex: Timeout acquiring a connection. The pool is probably full. Are you missing a .transacting(trx) call?')],
  [error('Transaction query already complete, run with DEBUG=knex:tx for more info')],
  [error('the database system is not yet accepting connections', { code: '57P03' })],
  [error('the database system is starting up')],
  [error('connect ECONNREFUSED 127.0.0.1:1', { code: 'ECONNREFUSED' })],
  [error('cannot connect', { code: '08006' })],
  [error('outer', { cause: error('inner', { code: 'ECONNRESET' }) })],
  [new AggregateError([error('a', { code: 'ECONNREFUSED' }), error('b')], 'all failed')],
])('the database is away: %s', (e) => expect(troubleOf(e)).toBe('away'))

test('its disk is full, by PostgreSQL’s code and by the system’s, however deep it stands', () => {
  expect(troubleOf(error('could not extend file', { code: '53100' }))).toBe('full')
  expect(troubleOf(error('write', { cause: error('no space left', { code: 'ENOSPC' }) }))).toBe('full')
})

test.each([[null], ['text'], [undefined], [error('duplicate key', { code: '23505' })], [error('a name was closed')]])('neither: %s', (e) =>
  expect(troubleOf(e)).toBeNull(),
)

test('an error that is its own cause does not hold it up', () => {
  const own = error('x')
  Object.assign(own, { cause: own })
  expect(troubleOf(own)).toBeNull()
})
