import { answer } from '@/app/answer'
import { findStreet } from '@/usecases/areas'

export async function POST(request: Request) {
  return answer(request, async (who) => findStreet(who, await request.json(), request.signal))
}
