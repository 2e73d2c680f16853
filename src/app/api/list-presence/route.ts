import { answer } from '@/app/answer'
import { presenceOf } from '@/usecases/about-list'

export async function POST(request: Request) {
  return answer(request, async (who) => presenceOf(who, await request.json(), request.signal))
}
