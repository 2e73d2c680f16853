import { told } from '@/app/requests/answer'
import { stopEmails } from '@/usecases/rounds/stop-emails'

/**
 * Stops emails to whoever got the message the link is in. It is pressed by mail programs, by one POST (RFC 8058), and by the page behind
 * the link. Nobody is signed in: whoever has the message has the link. Opening it stops nothing, since programs open links, too.
 */
export async function POST(request: Request, { params }: { params: Promise<{ token: string }> }) {
  const { token } = await params
  const form = await request.formData().catch(() => null)
  try {
    await stopEmails(token)
  } catch (error) {
    const { message, status } = told(error)
    return new Response(`${message}\n`, { status, headers: { 'content-type': 'text/plain; charset=utf-8' } })
  }
  if (form?.get('List-Unsubscribe') === 'One-Click') return new Response(null, { status: 200 })
  return new Response(null, { status: 303, headers: { location: `/stop/${encodeURIComponent(token)}` } })
}

export async function GET(_request: Request, { params }: { params: Promise<{ token: string }> }) {
  return new Response(null, { status: 303, headers: { location: `/stop/${encodeURIComponent((await params).token)}` } })
}
