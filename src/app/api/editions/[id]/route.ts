import { answer } from '@/app/answer'
import { bodyOf, editions } from '@/app/asked'
import { idOf } from '@/app/page-of'
import { compareEditionsOf, sideOf } from '@/usecases/compare-editions'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { earlier, later, tab, offset } = await bodyOf(request, editions)
    return compareEditionsOf(who, idOf((await params).id), Number(earlier), Number(later), sideOf(tab), offset, request.signal)
  })
}
