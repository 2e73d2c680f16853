import { OUTCOMES, type Outcome } from '@/core/outputs/intake-views'
import { answer } from '@/app/answer'
import { download } from '@/app/download'
import { idOf } from '@/app/page-of'
import { refusedCsv } from '@/usecases/batches'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const outcome = new URL(request.url).searchParams.get('outcome') as Outcome
    return download(await refusedCsv(who, idOf((await params).id), OUTCOMES.includes(outcome) ? outcome : 'refused'))
  })
}
