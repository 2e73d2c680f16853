import { answer } from '@/app/answer'
import { bodyOf, grouped } from '@/app/asked'
import { groupList } from '@/usecases/about-list'

export async function POST(request: Request) {
  return answer(request, async (who) => groupList(who, await bodyOf(request, grouped), request.signal))
}
