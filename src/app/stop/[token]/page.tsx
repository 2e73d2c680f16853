import type { Metadata } from 'next'
import { stopPage } from '@/usecases/rounds/stop-emails'
import { Refused } from '@/usecases/team/actor'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Stop these emails', robots: { index: false }, referrer: 'no-referrer' }

/** The page behind the link in an email: a button, and nothing else that could be pressed. It works without scripts. */
export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params
  const page = await stopPage(token).catch((error) => {
    if (error instanceof Refused) return null
    throw error
  })
  // Not as a missing page: those need scripts to be shown, and whoever stops emails may have none.
  if (!page)
    return (
      <main className="mx-auto grid max-w-[460px] gap-4 px-6 pt-[12vh] pb-12">
        <h1>This link is not complete</h1>
        <p>Copy all of the link from the email and open it again. Or answer the email and ask us to stop.</p>
      </main>
    )
  return (
    <main className="mx-auto grid max-w-[460px] gap-4 px-6 pt-[12vh] pb-12">
      <h1>{page.stopped ? 'These emails are stopped' : 'Stop these emails?'}</h1>
      {page.stopped ? (
        <p role="status">You get no more emails from {page.sender}. You can close this page.</p>
      ) : (
        <>
          <p>
            {page.sender} sends no more emails{page.to ? ` to ${page.to}` : ' to you'} after this. It takes effect at once.
          </p>
          <form method="post" action={`/stop/${encodeURIComponent(token)}/now`}>
            <button type="submit" className="button button-main">
              Stop these emails
            </button>
          </form>
        </>
      )}
    </main>
  )
}
