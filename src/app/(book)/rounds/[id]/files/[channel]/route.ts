import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { roundFile } from '@/usecases/rounds/round-file'

export async function GET(request: Request, { params }: { params: Promise<{ id: string; channel: string }> }) {
  return answer(request, async (who) => {
    const { id, channel } = await params
    const asked = new URL(request.url).searchParams
    return download(
      await roundFile(who, idOf(id), channel, {
        asReleased: asked.get('as') === 'released',
        layout: asked.get('layout'),
        colleague: asked.get('for'),
      }),
    )
  })
}
