import { answer } from '@/app/requests/answer'
import { actorOf } from '@/app/requests/auth'
import { subscribeNews } from '@/usecases/team/news'

export const dynamic = 'force-dynamic'

const open = new Set<() => void>()
process.once('SIGTERM', () => {
  for (const close of open) close()
})

/** Server-sent events (WHATWG HTML, section 9.2): what changes elsewhere while a page is open. */
export async function GET(request: Request) {
  return answer(request, async (who) => {
    const encoder = new TextEncoder()
    const given = new Headers(request.headers)
    let close = () => {}
    const stream = new ReadableStream({
      start(controller) {
        const send = (text: string) => {
          try {
            controller.enqueue(encoder.encode(text))
          } catch {
            close()
          }
        }
        // Who signed out is told no more; who has another post comes back as such.
        const look = () => void actorOf(given).then((now) => (now?.id === who.id && now.post === who.post ? null : close()), close)
        const unsubscribe = subscribeNews(who, (news) => send(`data: ${JSON.stringify(news)}\n\n`), look)
        const beat = setInterval(() => {
          send(': still here\n\n')
          look()
        }, 20_000)
        close = () => {
          if (!open.delete(close)) return
          clearInterval(beat)
          unsubscribe()
          try {
            controller.close()
          } catch {
            // The page is gone already.
          }
        }
        open.add(close)
        request.signal.addEventListener('abort', close)
        send(': listening\n\n')
      },
      cancel: () => close(),
    })
    return new Response(stream, {
      headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' },
    })
  })
}
