import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { letterResultsFile } from '@/usecases/rounds/letter-results'
import { resultsFile } from '@/usecases/rounds/round-results'
import { subjectOfRound } from '@/usecases/rounds/rounds'

/** The account of a round's results as a file to keep. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const id = idOf((await params).id)
    const fileOf = (await subjectOfRound(who, id)) === 'premises' ? letterResultsFile : resultsFile
    return download(await fileOf(who, id))
  })
}
