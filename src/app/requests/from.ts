import { cookies, headers } from 'next/headers'
import { settings } from '@/runtime/settings'
import { type From, markOf } from '@/usecases/team/sign-in-attempts'

const MARK = 'arch-ledger.browser'
const YEAR = 365 * 86_400

/** Where a request comes from. Its address is believed from X-Forwarded-For as far as proxies that are configured wrote it, and not otherwise. */
export async function fromWhere(): Promise<From> {
  const proxies = settings().ARCH_PROXIES
  const hops = ((await headers()).get('x-forwarded-for') ?? '').split(',').map((hop) => hop.trim())
  return { mark: (await cookies()).get(MARK)?.value, address: proxies > 0 ? (hops.at(-proxies) ?? null) || null : null }
}

/** Leaves the mark of a browser that somebody signed in at. */
export async function keepMark(email: string): Promise<void> {
  ;(await cookies()).set(MARK, markOf(email), {
    httpOnly: true,
    sameSite: 'lax',
    secure: (settings().ARCH_URL ?? '').startsWith('https:'),
    maxAge: YEAR,
    path: '/',
  })
}
