import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { aboutRoundFiles } from '@/usecases/rounds/about-round-files'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => download(await aboutRoundFiles(who, idOf((await params).id))))
}
