import { OUTCOMES } from '@/core/outputs/views'
import { answer } from '@/app/answer'
import { idOf } from '@/app/page-of'
import { Refused } from '@/usecases/actor'
import { batchRows } from '@/usecases/batches'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(async (who) => {
    const { outcome, offset } = await request.json()
    if (!OUTCOMES.includes(outcome)) throw new Refused('There is no such outcome.', 'not found')
    return batchRows(who, idOf((await params).id), outcome, offset ?? 0)
  })
}
