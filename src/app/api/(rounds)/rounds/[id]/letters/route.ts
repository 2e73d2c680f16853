import { answer } from '@/app/requests/answer'
import { bodyOf, letterResults } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { resultLetters } from '@/usecases/rounds/letter-results'

/** The letters behind a figure of the results of a round of premises. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { view, offset } = await bodyOf(request, letterResults)
    return resultLetters(who, idOf((await params).id), view, offset)
  })
}
