import { betterAuth } from 'better-auth'
import { nextCookies } from 'better-auth/next-js'
import { headers } from 'next/headers'
import { redirect } from 'next/navigation'
import pg from 'pg'
import { log } from '@/runtime/log'
import { settings } from '@/runtime/settings'
import { POSTS } from '@/core/views/team-views'
import type { Actor } from '@/usecases/team/actor'

const kept = globalThis as { archAuth?: ReturnType<typeof make> }

function make() {
  const { APP_DATABASE_URL, ARCH_SECRET, ARCH_URL, PORT } = settings()
  const local = [`http://localhost:${PORT}`, `http://127.0.0.1:${PORT}`]
  const pool = new pg.Pool({ connectionString: APP_DATABASE_URL, max: 4 })
  // A connection that breaks while nobody uses it is replaced by the next that is asked for.
  pool.on('error', (error) => log.warn({ message: error.message }, 'a connection of the sign-in broke'))
  return betterAuth({
    database: pool,
    secret: ARCH_SECRET,
    baseURL: ARCH_URL ?? local[0],
    trustedOrigins: ARCH_URL ? [ARCH_URL, ...local] : local,
    // Read from the database each time: who signed out, was given another post or left is so at once.
    session: { cookieCache: { enabled: false } },
    emailAndPassword: { enabled: true, disableSignUp: true },
    user: { additionalFields: { post: { type: 'string', input: false } } },
    advanced: { database: { generateId: false } },
    telemetry: { enabled: false },
    plugins: [nextCookies()],
  })
}

/** Sign-in, with its sessions in the database. Made on first use, so that a build needs no settings. */
export function auth() {
  kept.archAuth ??= make()
  return kept.archAuth
}

/** Who is acting in this request, or null without a session. */
export async function actorOrNull(): Promise<Actor | null> {
  return actorOf(await headers())
}

/** Whose session the headers of a request name, as it stands in the database now. */
export async function actorOf(given: Headers): Promise<Actor | null> {
  const session = await auth().api.getSession({ headers: given })
  if (!session) return null
  const { id, name, post } = session.user as { id: string; name: string; post?: string }
  return { id, name, post: POSTS.find((known) => known === post) ?? 'caller' }
}

/** Who is acting; without a session the sign-in page. */
export async function actor(): Promise<Actor> {
  return (await actorOrNull()) ?? redirect('/sign-in')
}
