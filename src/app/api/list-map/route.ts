import { answer } from '@/app/answer'
import { mapList } from '@/usecases/areas'

export async function POST(request: Request) {
  return answer(request, async (who) => mapList(who, await request.json(), request.signal))
}
