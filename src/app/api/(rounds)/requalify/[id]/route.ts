import { answer } from '@/app/requests/answer'
import { bodyOf, requalified } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { requalifyList } from '@/usecases/rounds/requalify-list'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { view, offset } = await bodyOf(request, requalified)
    return requalifyList(who, idOf((await params).id), view, offset, request.signal)
  })
}
