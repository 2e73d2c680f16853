import { answer } from '@/app/answer'
import { idOf } from '@/app/page-of'
import { compareEditionsOf } from '@/usecases/compare-editions'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(async (who) => {
    const { earlier, later, tab, offset } = await request.json()
    const side = tab === 'left' || tab === 'stayed' ? tab : 'joined'
    return compareEditionsOf(who, idOf((await params).id), Number(earlier), Number(later), side, Number(offset) || 0, request.signal)
  })
}
