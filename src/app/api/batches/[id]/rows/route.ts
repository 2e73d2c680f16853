import { OUTCOMES, UNDONE } from '@/core/outputs/intake-views'
import { answer } from '@/app/answer'
import { bodyOf, rows } from '@/app/asked'
import { idOf } from '@/app/page-of'
import { Refused } from '@/usecases/actor'
import { batchRows } from '@/usecases/batches'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { outcome, undone, offset } = await bodyOf(request, rows(OUTCOMES, UNDONE))
    const id = idOf((await params).id)
    if (undone) return batchRows(who, id, { undone }, offset)
    if (!outcome) throw new Refused('There is no such outcome.', 'not found')
    return batchRows(who, id, { outcome }, offset)
  })
}
