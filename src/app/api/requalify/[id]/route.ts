import { answer } from '@/app/answer'
import { idOf } from '@/app/page-of'
import { requalifyList } from '@/usecases/requalify'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { view, offset } = await request.json()
    return requalifyList(who, idOf((await params).id), view, offset ?? 0, request.signal)
  })
}
