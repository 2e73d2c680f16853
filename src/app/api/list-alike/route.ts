import { answer } from '@/app/answer'
import { alike, bodyOf } from '@/app/asked'
import { moreLike } from '@/usecases/about-list'

export async function POST(request: Request) {
  return answer(request, async (who) => moreLike(who, await bodyOf(request, alike), request.signal))
}
