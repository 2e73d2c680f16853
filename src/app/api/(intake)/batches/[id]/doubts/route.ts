import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { openRowInDoubt } from '@/usecases/intake/row-in-doubt'

/** A row in doubt beside those it could be. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => openRowInDoubt(who, idOf((await params).id), Number(new URL(request.url).searchParams.get('row'))))
}
