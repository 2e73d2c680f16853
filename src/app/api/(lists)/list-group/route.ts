import { answer } from '@/app/requests/answer'
import { bodyOf, grouped } from '@/app/requests/asked'
import { groupList } from '@/usecases/lists/group-list'

export async function POST(request: Request) {
  return answer(request, async (who) => groupList(who, await bodyOf(request, grouped), request.signal))
}
