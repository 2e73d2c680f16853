import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { type Reason, REASONS } from '@/core/records/suppression'
import { suppressionsCsv } from '@/usecases/screening/suppressions-csv'

export async function GET(request: Request) {
  return answer(request, async (who) => {
    const { searchParams } = new URL(request.url)
    const reason = searchParams.get('reason') as Reason
    return download(await suppressionsCsv(who, searchParams.get('find') ?? '', REASONS.includes(reason) ? reason : null))
  })
}
