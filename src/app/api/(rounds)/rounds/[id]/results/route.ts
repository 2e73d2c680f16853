import { answer } from '@/app/requests/answer'
import { bodyOf, results } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { resultPeople } from '@/usecases/rounds/round-results'

/** The people behind a figure of a round's results. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { view, offset } = await bodyOf(request, results)
    return resultPeople(who, idOf((await params).id), view, offset)
  })
}
