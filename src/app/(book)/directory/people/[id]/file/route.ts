import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { personFile } from '@/usecases/directory/person-file'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const as = new URL(request.url).searchParams.get('as') === 'json' ? 'json' : 'html'
    return download(await personFile(who, idOf((await params).id), as))
  })
}
