import { answer } from '@/app/requests/answer'
import { bodyOf, round } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { rulesMeant } from '@/usecases/rounds/rounds'
import { screenRound } from '@/usecases/rounds/screen-round'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { view, offset, rules } = await bodyOf(request, round)
    return screenRound(who, idOf((await params).id), view, offset, rules ? rulesMeant(rules) : undefined, request.signal)
  })
}
