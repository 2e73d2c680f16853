import { answer } from '@/app/answer'
import { moreLike } from '@/usecases/about-list'

export async function POST(request: Request) {
  return answer(request, async (who) => moreLike(who, await request.json(), request.signal))
}
