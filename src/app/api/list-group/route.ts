import { answer } from '@/app/answer'
import { groupList } from '@/usecases/about-list'

export async function POST(request: Request) {
  return answer(request, async (who) => groupList(who, await request.json(), request.signal))
}
