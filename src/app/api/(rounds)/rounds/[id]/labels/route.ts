import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { tellLabels } from '@/usecases/rounds/round-labels'

/** What address labels would be, before they are printed. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => tellLabels(who, idOf((await params).id), Object.fromEntries(new URL(request.url).searchParams)))
}
