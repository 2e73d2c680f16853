import { answer } from '@/app/requests/answer'
import { bodyOf, sharing } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { tellShares } from '@/usecases/rounds/share-file'

/** What sharing out the contacts of a round would give each colleague. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { channel, how } = await bodyOf(request, sharing)
    return tellShares(who, idOf((await params).id), channel, how)
  })
}
