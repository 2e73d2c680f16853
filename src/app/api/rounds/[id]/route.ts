import { answer } from '@/app/answer'
import { idOf } from '@/app/page-of'
import { validRules } from '@/core/screening/rules'
import { screenRound } from '@/usecases/screen-round'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { view, offset, rules } = await request.json()
    return screenRound(who, idOf((await params).id), view, offset ?? 0, rules ? validRules(rules) : undefined, request.signal)
  })
}
