import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { allRoundFiles } from '@/usecases/rounds/all-round-files'

/** All files of a released round in one archive. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => download(await allRoundFiles(who, idOf((await params).id))))
}
