import { type Outcome, OUTCOMES } from '@/core/views/intake-views'
import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { refusedCsv } from '@/usecases/intake/refused-csv'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const outcome = new URL(request.url).searchParams.get('outcome') as Outcome
    return download(await refusedCsv(who, idOf((await params).id), OUTCOMES.includes(outcome) ? outcome : 'refused'))
  })
}
