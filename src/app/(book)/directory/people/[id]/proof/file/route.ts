import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { proofFile } from '@/usecases/directory/person-file'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) =>
    download(await proofFile(who, idOf((await params).id), new URL(request.url).searchParams.get('day') ?? '')),
  )
}
