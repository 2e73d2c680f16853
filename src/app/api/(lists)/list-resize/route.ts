import { answer } from '@/app/requests/answer'
import { bodyOf, resized } from '@/app/requests/asked'
import { resizeList } from '@/usecases/lists/resize-list'

export async function POST(request: Request) {
  return answer(request, async (who) => resizeList(who, await bodyOf(request, resized), request.signal))
}
