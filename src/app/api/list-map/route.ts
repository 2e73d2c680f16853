import { answer } from '@/app/answer'
import { bodyOf, mapped } from '@/app/asked'
import { mapList } from '@/usecases/areas'

export async function POST(request: Request) {
  return answer(request, async (who) => mapList(who, await bodyOf(request, mapped), request.signal))
}
