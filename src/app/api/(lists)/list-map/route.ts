import { answer } from '@/app/requests/answer'
import { bodyOf, mapped } from '@/app/requests/asked'
import { mapList } from '@/usecases/lists/map-list'

export async function POST(request: Request) {
  return answer(request, async (who) => mapList(who, await bodyOf(request, mapped), request.signal))
}
