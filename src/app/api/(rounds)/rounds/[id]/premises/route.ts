import { answer } from '@/app/requests/answer'
import { bodyOf, premisesRound } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { screenPremisesRound } from '@/usecases/rounds/screen-premises-round'

/** The account of a round of premises, with a page of its letters or of what got none. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { view, offset } = await bodyOf(request, premisesRound)
    return screenPremisesRound(who, idOf((await params).id), view, offset)
  })
}
