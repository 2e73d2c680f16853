import { answer } from '@/app/answer'
import { bodyOf, streets } from '@/app/asked'
import { findStreet } from '@/usecases/areas'

export async function POST(request: Request) {
  return answer(request, async (who) => findStreet(who, await bodyOf(request, streets), request.signal))
}
