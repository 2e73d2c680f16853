import { afterAll, beforeAll, beforeEach, describe, expect, test, vi } from 'vitest'
import type { Actor } from '@/usecases/team/actor'
import { wholeOf } from '@/app/requests/asked'
import { settings } from '@/runtime/settings'
import { setWaits } from '@/sources/http-source'
import { CALM } from '@/standins/harness'
import { startStandins } from '@/standins/services'
import { broughtIn, freePort, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { openEverything } from '../../support/open-everything'
import { ACTIONS, LINES, PAGES, ROUTES } from '../../support/matrix'
import { type Has, type Needs, WRONG } from '../../support/matrix-needs'
import type { Route } from '../../support/matrix-things'
import { actionsThere, cells, expected, forgetThing, routesThere, saidBy, skipped, thingOf } from '../../support/matrix-things'

/**
 * Every route and every action of the application, as its own files have them, for every post and every role on the list it is about:
 * who is let through, who is refused and who is told that there is nothing. A new one fails here until what it needs is written down.
 */
const now = vi.hoisted(() => ({ who: null as Actor | null }))
vi.mock('@/app/requests/auth', () => ({
  actorOrNull: async () => now.who,
  actorOf: async () => now.who,
  actor: async () => now.who,
  auth: () => ({
    api: {
      signInEmail: async () => Promise.reject(Object.assign(new Error('no'), { statusCode: 401 })),
      signOut: async () => {},
      changePassword: async () => Promise.reject(Object.assign(new Error('no'), { statusCode: 400 })),
    },
  }),
}))
vi.mock('next/headers', () => ({
  headers: async () => new Headers({ 'sec-fetch-site': 'same-origin' }),
  cookies: async () => ({ get: () => undefined, set: () => {} }),
}))
vi.mock('next/cache', () => ({ revalidatePath: () => {} }))
vi.mock('next/navigation', () => ({
  redirect: () => {
    throw Object.assign(new Error('on'), { digest: 'NEXT_REDIRECT' })
  },
  notFound: () => {
    throw Object.assign(new Error('none'), { digest: 'NEXT_HTTP_ERROR_FALLBACK;404' })
  },
}))
const spied = vi.hoisted(() => ({ status: 200 }))
vi.mock('@/app/requests/answer', async (original) => {
  const real = await original<typeof import('@/app/requests/answer')>()
  return {
    ...real,
    act: async (
      shapes: Parameters<typeof real.act>[0],
      given: unknown[],
      work: (actor: Actor, ...whole: unknown[]) => Promise<unknown>,
    ) => {
      spied.status = now.who ? 200 : 401
      if (!now.who) return { ok: false, error: 'no session' }
      try {
        return { ok: true, value: await work(now.who, ...wholeOf(shapes as never, given)) }
      } catch (error) {
        spied.status = real.told(error).status
        if (spied.status === 500) console.error(error)
        return { ok: false, error: real.told(error).message }
      }
    },
  }
})

let routes: Awaited<ReturnType<typeof routesThere>>
let actions: Awaited<ReturnType<typeof actionsThere>>
let t: TestDatabase
let has: Has
let batch: number
const asker = new Map<Actor['post'], Actor>()
let standins: Awaited<ReturnType<typeof startStandins>>
afterAll(() => new Promise((resolve) => standins.server.close(resolve)))

beforeAll(async () => {
  process.env.SOURCES_PORT = String(await freePort())
  t = await freshDatabase()
  setWaits([1, 2, 4])
  standins = await startStandins(settings().SOURCES_PORT, CALM)
  await startEngine(t)
  await broughtIn(t.ines, 'people.csv', 'Id,Name,Email\nP1,Ann Able,ann@way.example\nP2,Bob Bell,bob@way.example\n')
  const [person, other] = (await t.app('person').orderBy('id').select('id')).map((p) => p.id)
  has = { person, other, lines: LINES }
  const { receiveFile } = await import('@/usecases/intake/receive-file')
  batch = await receiveFile(t.ines, { name: 'waits.csv', bytes: Buffer.from('Name\nSomebody Else\n') })
  const { addMember } = await import('@/db/team/first-member')
  for (const post of ['caller', 'coordinator', 'manager'] as const)
    asker.set(post, {
      id: await addMember(t.owner, { name: `Asking ${post}`, email: `${post}@way.example`, post, password: 'rain-on-the-roof' }),
      name: `Asking ${post}`,
      post,
    })
  routes = await routesThere()
  actions = await actionsThere()
}, 180_000)

beforeEach(() => {
  now.who = null
})

async function callRoute(key: string, needs: Needs, id: number | string, body?: unknown): Promise<number> {
  const [path, method] = [key.split(' ')[0], key.split(' ')[1]]
  const params = { ...needs.params, id: String(id) }
  const asked = needs.ask?.(Number(id), has) as Record<string, string>
  const url = new URL(`http://localhost/${path}`)
  if (method === 'GET') for (const [name, value] of Object.entries(asked)) url.searchParams.set(name, value)
  for (const [name, value] of Object.entries(needs.query ?? {})) url.searchParams.set(name, value)
  const sent = body === undefined ? JSON.stringify(asked) : (body as string)
  const gone = new AbortController()
  const request = new Request(url, {
    method,
    signal: gone.signal,
    ...(method === 'GET' ? {} : { body: sent, headers: { 'content-type': 'application/json' } }),
  })
  const response = await (routes.get(key) as NonNullable<Route[string]>)(request, { params: Promise.resolve(params) })
  gone.abort()
  return response.status
}

async function callAction(key: string, args: unknown[]): Promise<number> {
  spied.status = 200
  try {
    await (actions.get(key) as (...args: unknown[]) => Promise<unknown>)(...args)
  } catch (error) {
    if ((error as { digest?: string }).digest === 'NEXT_REDIRECT') return 200
    console.error(key, error)
    return 500
  }
  return spied.status
}

describe('written down is', () => {
  test('what every route needs, and no route that is not there', () => {
    expect([...routes.keys()].sort()).toEqual(Object.keys(ROUTES).sort())
  })
  test('what every action needs, and no action that is not there', () => {
    expect([...actions.keys()].sort()).toEqual(Object.keys(ACTIONS).sort())
  })
})

describe('whoever is not signed in', () => {
  test('is told nothing by any route, and does nothing by any action', async () => {
    const open: string[] = []
    for (const [key, needs] of Object.entries(ROUTES)) if ((await callRoute(key, needs, 1)) !== 401) open.push(key)
    for (const [key, needs] of Object.entries(ACTIONS))
      if (!key.startsWith('/sign-in') && (await callAction(key, needs.ask?.(1, has) as unknown[])) !== 401) open.push(key)
    expect(open.filter((key) => !key.startsWith('stop/'))).toEqual(['health GET'])
  })
})

async function differing(
  table: Record<string, Needs>,
  call: (key: string, needs: Needs, id: number) => Promise<number>,
  changes = false,
): Promise<string[]> {
  const wrong: string[] = []
  for (const [key, needs] of Object.entries(table)) {
    if (skipped(key)) continue
    for (const post of ['caller', 'coordinator', 'manager'] as const) {
      for (const relation of cells(needs)) {
        const who = asker.get(post) as Actor
        const id = needs.of ? await thingOf({ t, batch }, needs.of, relation, who, needs.params?.list === 'yes') : 900_000_000
        now.who = who
        const [said, meant] = [saidBy(await call(key, needs, id)), expected(needs, relation, post)]
        // What somebody was refused is as it was, so the next one is asked about it, too.
        if (changes && said !== 'none' && said !== 'not allowed') forgetThing(needs.of, relation, who, needs.params?.list === 'yes')
        // Of what nobody made, a person who may is told that there is none.
        if (said !== meant && !(meant === 'let through' && said === 'none' && (needs.of === undefined || needs.empty)))
          wrong.push(`${key}, ${post}, ${relation}: ${said}, not ${meant}`)
      }
    }
  }
  return wrong
}

test('each route lets through whom it should, by post and by role', async () => {
  expect(await differing(ROUTES, (key, needs, id) => callRoute(key, needs, id))).toEqual([])
}, 300_000)

test('each action lets through whom it should, by post and by role', async () => {
  expect(await differing(ACTIONS, (key, needs, id) => callAction(key, needs.ask?.(id, has) as unknown[]), true)).toEqual([])
}, 300_000)

test('each page is there for whom it should be, and for nobody else', async () => {
  const files = import.meta.glob<{ default: (given: { params: Promise<object>; searchParams: Promise<object> }) => Promise<unknown> }>(
    '/src/app/**/page.tsx',
  )
  // The first page and that of signing in are for everybody.
  expect(
    Object.keys(files)
      .map((file) => file.replace('/src/app/', '').replace('/page.tsx', ''))
      .filter((key) => key.startsWith('(book)'))
      .sort(),
  ).toEqual(Object.keys(PAGES).sort())
  const show = async (key: string, needs: Needs, id: number | string): Promise<number> => {
    const { default: page } = await files[`/src/app/${key}/page.tsx`]()
    try {
      await page({ params: Promise.resolve({ id: String(id) }), searchParams: Promise.resolve(needs.query ? { list: String(id) } : {}) })
      return 200
    } catch (error) {
      if ((error as { digest?: string }).digest === 'NEXT_HTTP_ERROR_FALLBACK;404') return 404
      console.error(key, error)
      return 500
    }
  }
  expect(await differing(PAGES, show)).toEqual([])
  const wrong: string[] = []
  for (const [key, needs] of Object.entries(PAGES)) {
    if (!needs.of) continue
    for (const id of [900_000_000, 'abc', '-1', '', '99999999999999999999', '%00']) {
      now.who = asker.get('manager') as Actor
      const status = await show(key, needs, id)
      if (status !== 404) wrong.push(`${key} ${id}: ${status}`)
    }
  }
  expect(wrong).toEqual([])
}, 300_000)

test('a number that is none, or of nothing, is not found', async () => {
  const wrong: string[] = []
  for (const [key, needs] of Object.entries(ROUTES)) {
    if (!needs.of) continue
    for (const id of [900_000_000, 'abc', '-1', '1.5', '1e3', '', '99999999999999999999', '1;--', '%00', '１'] as const) {
      now.who = asker.get('manager') as Actor
      const status = await callRoute(key, needs, id)
      if (status !== 404) wrong.push(`${key} ${id}: ${status}`)
    }
  }
  for (const [key, needs] of Object.entries(ACTIONS)) {
    if (!needs.of) continue
    now.who = asker.get('manager') as Actor
    const status = await callAction(key, needs.ask?.(900_000_000, has) as unknown[])
    if (status !== 404) wrong.push(`${key}: ${status}`)
  }
  expect(wrong).toEqual([])
}, 300_000)

test('whatever is sent in place of what is asked for, nothing breaks', async () => {
  const broke: string[] = []
  for (const [key, needs] of Object.entries(ROUTES)) {
    if (skipped(key) || !key.endsWith('POST') || needs.why) continue
    const who = asker.get('manager') as Actor
    forgetThing(needs.of, 'owner', who, needs.params?.list === 'yes')
    const id = needs.of ? await thingOf({ t, batch }, needs.of, 'owner', who, needs.params?.list === 'yes') : 1
    const good = needs.ask?.(id, has) as Record<string, unknown>
    const send = async (body: string) => {
      now.who = who
      const status = await callRoute(key, needs, id, body)
      if (status >= 500) broke.push(`${key} ${body.slice(0, 160)}: ${status}`)
      return status
    }
    const sendWith = async (field: string, wrongs: unknown[]) => {
      const bodies = new Set(wrongs.map((wrong) => JSON.stringify({ ...good, [field]: wrong })))
      const statuses: number[] = []
      for (const body of bodies) statuses.push(await send(body))
      return statuses
    }
    for (const body of ['', 'not json', 'null', '[]', '7', '"x"', '{']) {
      const status = await send(body)
      if (status !== 400 && status !== 404) broke.push(`${key} ${body}: ${status}, not 400`)
    }
    for (const field of Object.keys(good)) await sendWith(field, WRONG)
    for (const field of ['offset', 'sort', 'find', 'view', 'rules', 'lines'].filter((own) => !(own in good))) {
      // A route that answers all the same to these does not read the field.
      const statuses = await sendWith(field, [{ id: {} }, -1, true])
      if (statuses.some((status) => status !== 200)) await sendWith(field, WRONG)
    }
  }
  expect(broke).toEqual([])
}, 300_000)

test('whatever an action is handed, nothing breaks', async () => {
  const broke: string[] = []
  for (const [key, needs] of Object.entries(ACTIONS)) {
    if (skipped(key)) continue
    const who = asker.get('manager') as Actor
    forgetThing(needs.of, 'owner', who)
    const id = needs.of ? await thingOf({ t, batch }, needs.of, 'owner', who) : 1
    const good = needs.ask?.(id, has) as unknown[]
    for (let i = 0; i < good.length; i++) {
      const part = good[i]
      const wrongs = [
        ...WRONG,
        ...(part && typeof part === 'object' && !Array.isArray(part)
          ? WRONG.flatMap((wrong) => Object.keys(part).map((field) => ({ ...part, [field]: wrong })))
          : []),
      ]
      for (const wrong of wrongs) {
        now.who = who
        const status = await callAction(
          key,
          good.map((arg, at) => (at === i ? wrong : arg)),
        )
        if (status >= 500) broke.push(`${key} [${i}] ${JSON.stringify(wrong)?.slice(0, 100)}: ${status}`)
      }
    }
  }
  expect(broke).toEqual([])
}, 300_000)

test('whatever was stored meanwhile, every page opens for everybody', async () => {
  const people = await t.app('person').where({ state: 'live' }).select('id')
  const opened = await openEverything(
    [t.ines, t.tam, ...asker.values()],
    people.map(({ id }) => id),
  )
  expect(opened).toBeGreaterThan(30)
}, 300_000)
