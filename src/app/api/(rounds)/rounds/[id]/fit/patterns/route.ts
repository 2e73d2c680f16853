import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { fitPatterns } from '@/usecases/rounds/fit-patterns'

/** What those who do not belong share. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => fitPatterns(who, idOf((await params).id)))
}
