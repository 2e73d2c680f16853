import { answer } from '@/app/answer'
import { bodyOf, round } from '@/app/asked'
import { idOf } from '@/app/page-of'
import { rulesMeant } from '@/usecases/rounds'
import { screenRound } from '@/usecases/screen-round'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { view, offset, rules } = await bodyOf(request, round)
    return screenRound(who, idOf((await params).id), view, offset, rules ? rulesMeant(rules) : undefined, request.signal)
  })
}
