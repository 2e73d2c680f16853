import { answer } from '@/app/requests/answer'
import { alike, bodyOf } from '@/app/requests/asked'
import { moreLike } from '@/usecases/lists/more-like'

export async function POST(request: Request) {
  return answer(request, async (who) => moreLike(who, await bodyOf(request, alike), request.signal))
}
