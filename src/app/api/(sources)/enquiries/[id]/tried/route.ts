import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { triedOnList } from '@/usecases/sources/try-on-list'

/** What a list would make of what a search found, before anything is paid for. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) =>
    triedOnList(who, idOf((await params).id), idOf(new URL(request.url).searchParams.get('list') ?? '')),
  )
}
