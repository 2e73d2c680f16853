import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { fitPage } from '@/usecases/rounds/fit-page'

/** The fit check of a round as it stands; with `second`, the people a colleague judged already come next. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => fitPage(who, idOf((await params).id), new URL(request.url).searchParams.get('second') === 'yes'))
}
