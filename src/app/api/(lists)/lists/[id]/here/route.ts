import { answer } from '@/app/requests/answer'
import { bodyOf, here } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { lookAt, lookAway } from '@/usecases/lists/list-readers'

/** A page says that it has a list open, or that it closed it; who else has it open comes back. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { working, gone } = await bodyOf(request, here)
    const id = idOf((await params).id)
    if (gone === true) return lookAway(who, id)
    return { others: await lookAt(who, id, working === true) }
  })
}
