import { answer } from '@/app/requests/answer'
import { bodyOf, linesAlone } from '@/app/requests/asked'
import { presenceOf } from '@/usecases/lists/presence-of'

export async function POST(request: Request) {
  return answer(request, async (who) => presenceOf(who, await bodyOf(request, linesAlone), request.signal))
}
