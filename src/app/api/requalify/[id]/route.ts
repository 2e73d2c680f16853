import { answer } from '@/app/answer'
import { bodyOf, requalified } from '@/app/asked'
import { idOf } from '@/app/page-of'
import { requalifyList } from '@/usecases/requalify'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { view, offset } = await bodyOf(request, requalified)
    return requalifyList(who, idOf((await params).id), view, offset, request.signal)
  })
}
