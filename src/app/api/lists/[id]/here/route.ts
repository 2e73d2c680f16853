import { answer } from '@/app/answer'
import { bodyOf, here } from '@/app/asked'
import { idOf } from '@/app/page-of'
import { lookAt, lookAway } from '@/usecases/list-readers'

/** A page says that it has a list open, or that it closed it; who else has it open comes back. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { working, gone } = await bodyOf(request, here)
    const id = idOf((await params).id)
    if (gone === true) return lookAway(who, id)
    return { others: await lookAt(who, id, working === true) }
  })
}
