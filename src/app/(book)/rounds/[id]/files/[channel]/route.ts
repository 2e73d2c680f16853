import { answer } from '@/app/answer'
import { download } from '@/app/download'
import { idOf } from '@/app/page-of'
import { roundFile } from '@/usecases/screen-round'

export async function GET(request: Request, { params }: { params: Promise<{ id: string; channel: string }> }) {
  return answer(request, async (who) => {
    const { id, channel } = await params
    return download(await roundFile(who, idOf(id), channel))
  })
}
