import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { ourFile } from '@/usecases/screening/comparisons'
import { sharedCsv } from '@/usecases/screening/shared-csv'
import { Refused } from '@/usecases/team/actor'

/** What is sent to the other organisation, or what both must not contact as CSV. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string; file: string }> }) {
  return answer(request, async (who) => {
    const { id, file } = await params
    if (file === 'shared') return download(await sharedCsv(who, idOf(id)))
    if (file !== 'offer' && file !== 'answer') throw new Refused('There is no such file.', 'not found')
    return download(await ourFile(who, idOf(id), file))
  })
}
