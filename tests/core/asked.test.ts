import fc from 'fast-check'
import { afterEach, describe, expect, test, vi } from 'vitest'
import { array, object } from 'yup'
import { account, bodyOf, free, listView, Malformed, offset, ref, refs, text, typed, wholeOf, word } from '@/app/requests/asked'

/** What comes to the application from outside: what is let in, from where, and by whom. */

const given = vi.hoisted(() => ({
  headers: {} as Record<string, string>,
  mark: undefined as string | undefined,
  proxies: 0,
  url: undefined as string | undefined,
  who: true,
}))
vi.mock('next/headers', () => ({
  headers: async () => new Headers(given.headers),
  cookies: async () => ({ get: () => (given.mark ? { value: given.mark } : undefined), set: () => {} }),
}))
vi.mock('@/app/requests/auth', () => ({ actorOrNull: async () => (given.who ? { id: 'a', name: 'Ann', post: 'caller' } : null) }))
vi.mock('@/runtime/settings', async (original) => ({
  ...(await original<object>()),
  settings: () => ({ ARCH_PROXIES: given.proxies, ARCH_URL: given.url, ARCH_SECRET: 'x'.repeat(32) }),
}))

afterEach(() => {
  Object.assign(given, { headers: {}, mark: undefined, proxies: 0, url: undefined, who: true })
})

const posted = (body: BodyInit) => new Request('http://here.example/api', { method: 'POST', body })

describe('a body', () => {
  test.each(['', 'x', 'null', '7', '"x"', '[]', '[{}]', 'true', '{'])('%s is none', async (body) => {
    await expect(bodyOf(posted(body), object({}))).rejects.toThrow(Malformed)
  })
  test('is what its shape says, and nothing else comes along', async () => {
    expect(await bodyOf(posted('{"find":"a\\u0000b","offset":50,"more":{"x":1}}'), object({ find: text(), offset: offset() }))).toEqual({
      find: 'ab',
      offset: 50,
    })
    await expect(bodyOf(posted('{"offset":-1}'), object({ offset: offset() }))).rejects.toThrow(/incomplete/)
    await expect(bodyOf(posted('{"offset":{"a":1}}'), object({ offset: offset() }))).rejects.toThrow(/incomplete/)
  })
  test('of whatever JSON there is either has its shape or is refused, and never breaks otherwise', async () => {
    await fc.assert(
      fc.asyncProperty(fc.json(), async (json) => {
        const found = await bodyOf(posted(json), account).then(
          (value) => value,
          (error) => error,
        )
        if (found instanceof Error) expect(found).toBeInstanceOf(Malformed)
        else expect(['on', 'never', 'new', 'out', 'unknown', 'moved']).toContain(found.view.tab)
      }),
      { numRuns: 300 },
    )
  })
})

describe('what an action is handed', () => {
  const shapes = [ref(), refs(3), typed(10), word(['in', 'out'] as const), free(), listView(), array(ref()).max(2).optional()] as const
  test('comes through whole', () => {
    expect(wholeOf([...shapes], [7, [1, 2], 'a word that is long', 'out', { any: 'thing' }, { tab: 'on' }, undefined])).toEqual([
      7,
      [1, 2],
      'a word tha',
      'out',
      { any: 'thing' },
      { tab: 'on' },
      undefined,
    ])
  })
  test.each([
    ['a number of another kind', ['7', [], '', 'in', null, { tab: 'on' }]],
    ['a number that is no whole one', [1.5, [], '', 'in', null, { tab: 'on' }]],
    ['a number past what can be told apart', [2 ** 53, [], '', 'in', null, { tab: 'on' }]],
    ['no list of numbers', [1, 'x', '', 'in', null, { tab: 'on' }]],
    ['too many numbers', [1, [1, 2, 3, 4], '', 'in', null, { tab: 'on' }]],
    ['another word', [1, [], '', 'across', null, { tab: 'on' }]],
    ['a tab that is none', [1, [], '', 'in', null, { tab: 'all' }]],
    ['a figure without its line', [1, [], '', 'in', null, { tab: 'moved', column: 'out' }]],
  ])('%s is refused', (_, args) => {
    expect(() => wholeOf([...shapes], args)).toThrow(Malformed)
  })
  test('whatever it is, it has its shape or is refused', () => {
    fc.assert(
      fc.property(fc.array(fc.anything(), { maxLength: 7 }), (args) => {
        try {
          const [id, ids, said, way] = wholeOf([...shapes], args)
          expect(
            Number.isSafeInteger(id) && ids.every(Number.isSafeInteger) && typeof said === 'string' && ['in', 'out'].includes(way),
          ).toBe(true)
        } catch (error) {
          expect(error).toBeInstanceOf(Malformed)
        }
      }),
      { numRuns: 2000 },
    )
  })
})

describe('where a request comes from', () => {
  const from = async () => (await import('@/app/requests/from')).fromWhere()
  test('is not believed of a header that anybody can write', async () => {
    given.headers = { 'x-forwarded-for': '192.0.2.1' }
    expect(await from()).toEqual({ mark: undefined, address: null })
  })
  test.each([
    [1, '192.0.2.1', '192.0.2.1'],
    [1, '203.0.113.9, 192.0.2.1', '192.0.2.1'],
    [2, '203.0.113.9, 192.0.2.1, 10.0.0.1', '192.0.2.1'],
    [2, '192.0.2.1', null],
    [1, '', null],
  ])('behind %i proxies, of %s, is %s', async (proxies, header, address) => {
    Object.assign(given, { proxies, headers: { 'x-forwarded-for': header } })
    expect((await from()).address).toBe(address)
  })
})

describe('a request', () => {
  const asked = async (method: string, headers: Record<string, string>) => {
    given.headers = { host: 'here.example', ...headers }
    const { answer } = await import('@/app/requests/answer')
    return answer(new Request('http://here.example/api', { method }), async () => ({ done: true }))
  }
  test.each([
    ['GET', {}, 200],
    ['POST', {}, 403],
    ['POST', { origin: 'http://here.example' }, 200],
    ['POST', { origin: 'http://elsewhere.example' }, 403],
    ['POST', { origin: 'null' }, 403],
    ['POST', { origin: 'http://here.example', 'sec-fetch-site': 'cross-site' }, 403],
    ['POST', { origin: 'http://here.example', 'sec-fetch-site': 'same-site' }, 403],
    ['POST', { 'sec-fetch-site': 'same-origin' }, 200],
    ['GET', { 'sec-fetch-site': 'cross-site' }, 403],
    ['GET', { 'sec-fetch-site': 'none' }, 200],
  ] as const)('%s with %j is answered by %i', async (method, headers, status) => {
    expect((await asked(method, headers)).status).toBe(status)
  })
  test('may name the origin that browsers reach us by, where a proxy stands before us', async () => {
    given.url = 'https://ledger.example/app'
    expect((await asked('POST', { origin: 'https://ledger.example' })).status).toBe(200)
    expect((await asked('POST', { origin: 'https://ledger.example.org' })).status).toBe(403)
  })
  test('is answered with what nobody on the way keeps, refusals too', async () => {
    expect((await asked('GET', {})).headers.get('cache-control')).toBe('no-store')
    const { answer } = await import('@/app/requests/answer')
    const { Refused } = await import('@/usecases/team/actor')
    const refused = async (error: unknown) => answer(new Request('http://here.example/api'), () => Promise.reject(error))
    expect([
      (await refused(new Refused('no'))).status,
      (await refused(new Refused('no', 'not found'))).status,
      (await refused(new Refused('no', 'not allowed'))).status,
      (await refused(new Malformed())).status,
      (await refused(Object.assign(new Error('x'), { code: '22P02' }))).status,
    ]).toEqual([409, 404, 403, 400, 400])
    expect((await refused(new Malformed())).headers.get('cache-control')).toBe('no-store')
    given.who = false
    expect((await asked('GET', {})).status).toBe(401)
  })
})
