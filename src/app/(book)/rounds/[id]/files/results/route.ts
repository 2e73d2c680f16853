import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { resultsFile } from '@/usecases/rounds/round-results'

/** The account of a round's results as a file to keep. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => download(await resultsFile(who, idOf((await params).id))))
}
