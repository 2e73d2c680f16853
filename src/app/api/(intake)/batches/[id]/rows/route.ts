import { OUTCOMES, UNDONE } from '@/core/views/intake-views'
import { answer } from '@/app/requests/answer'
import { bodyOf, rows } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { Refused } from '@/usecases/team/actor'
import { batchRows } from '@/usecases/intake/batch-rows'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { outcome, undone, offset } = await bodyOf(request, rows(OUTCOMES, UNDONE))
    const id = idOf((await params).id)
    if (undone) return batchRows(who, id, { undone }, offset)
    if (!outcome) throw new Refused('There is no such outcome.', 'not found')
    return batchRows(who, id, { outcome }, offset)
  })
}
