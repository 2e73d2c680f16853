import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { askEngine } from '@/engine/client'
import { engineToken } from '@/engine/token'
import { VERBS } from '@/engine/verbs'
import { settings } from '@/runtime/settings'
import { freshDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

beforeAll(async () => {
  await startEngine(await freshDatabase())
})

/** A body as anybody who holds the token can send it. */
async function post(verb: string, body: string): Promise<{ status: number; error: string }> {
  const { ENGINE_PORT, ARCH_SECRET } = settings()
  const response = await fetch(`http://127.0.0.1:${ENGINE_PORT}/${verb}`, {
    method: 'POST',
    headers: { 'x-arch-engine': engineToken(ARCH_SECRET) },
    body,
  })
  return { status: response.status, error: (await response.json()).error }
}

const start: Line = { id: 'start', verb: 'start', off: false, batch: null }
const moment = { asOf: Date.UTC(2026, 5, 15), zone: 'Europe/London' }
const page = { offset: 0, limit: 10 }
const whole = { lines: [start], named: {}, moment, view: { tab: 'on' }, page }

describe('what comes to the engine is checked where it comes in', () => {
  test.each(Object.keys(VERBS))('%s: an empty body is refused, and told what is missing', async (verb) => {
    const { status, error } = await post(verb, '{}')
    expect(status).toBe(400)
    expect(error).toMatch(/required|must be defined/)
  })

  test.each(Object.keys(VERBS))('%s: a body that is no object is refused', async (verb) => {
    for (const body of ['null', '[]', '7', '"lines"', 'lines']) expect((await post(verb, body)).status, body).toBe(400)
  })

  test.each([
    ['no lines', { lines: [] }, /lines/],
    ['a line without an id', { lines: [{ verb: 'start' }] }, /lines/],
    ['lines of named lists that are none', { named: { 'list:1:latest': 'everybody' } }, /named/],
    ['a moment without a zone', { moment: { asOf: 1 } }, /moment/],
    ['a view that there is not', { view: { tab: 'everywhere' } }, /view/],
    ['a figure without its line', { view: { tab: 'moved', column: 'out' } }, /view/],
    ['a page before the first', { page: { offset: -1, limit: 10 } }, /page.offset/],
    ['a page of part of a record', { page: { offset: 0, limit: 1.5 } }, /page.limit/],
    ['an order by nothing', { sort: [{ back: true }] }, /sort\[0\].key/],
    ['a place that is neither a shape nor premises', { place: { premises: ['here'] } }, /place/],
    ['a number where a text belongs', { since: 5 }, /since/],
  ])('a list with %s', async (_, wrong, named) => {
    const { status, error } = await post('list', JSON.stringify({ ...whole, ...wrong }))
    expect([status, error]).toEqual([400, expect.stringMatching(named)])
  })

  test.each([
    ['a channel that is not screened', { tab: 'channel', channel: 'fax' }],
    ['a rule without its number', { tab: 'rule' }],
    ['nothing', null],
  ])('a screening of %s', async (_, view) => {
    const body = { ...whole, rules: [], moment: { ...moment, exceptRounds: [], letThrough: [] }, view }
    expect((await post('screen', JSON.stringify(body))).error).toMatch(/view/)
    expect((await post('screen', JSON.stringify({ ...body, view: { tab: 'held' }, moment }))).error).toMatch(/moment/)
  })

  test('a question it does not know is not found, whatever it is called', async () => {
    for (const verb of ['constructor', '__proto__', 'toString', 'lists', '']) expect((await post(verb, '{}')).status, verb).toBe(404)
  })

  test('it goes on answering, and what is right is answered', async () => {
    expect(await askEngine('list', { ...whole, view: { tab: 'on' } })).toMatchObject({ behind: null, total: 0, ids: [] })
    expect(await askEngine('streets', { subject: 'person', typed: 'Mill Lane' })).toEqual({ behind: null, exact: 0, likely: [] })
  })
})
