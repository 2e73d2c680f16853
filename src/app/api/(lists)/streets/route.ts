import { answer } from '@/app/requests/answer'
import { bodyOf, streets } from '@/app/requests/asked'
import { findStreet } from '@/usecases/lists/find-street'

export async function POST(request: Request) {
  return answer(request, async (who) => findStreet(who, await bodyOf(request, streets), request.signal))
}
