import { answer } from '@/app/requests/answer'
import { bodyOf, editions } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { compareEditionsOf, sideOf } from '@/usecases/lists/compare-editions'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { earlier, later, tab, offset } = await bodyOf(request, editions)
    return compareEditionsOf(who, idOf((await params).id), Number(earlier), Number(later), sideOf(tab), offset, request.signal)
  })
}
