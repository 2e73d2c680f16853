import { answer } from '@/app/requests/answer'
import { bodyOf, linesAlone } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { listCost } from '@/usecases/lists/list-cost'

/** What contacting the people of some lines costs by the plan in a list's policy. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { lines } = await bodyOf(request, linesAlone)
    return { cost: await listCost(who, idOf((await params).id), lines, request.signal) }
  })
}
