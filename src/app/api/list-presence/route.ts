import { answer } from '@/app/answer'
import { bodyOf, linesAlone } from '@/app/asked'
import { presenceOf } from '@/usecases/about-list'

export async function POST(request: Request) {
  return answer(request, async (who) => presenceOf(who, await bodyOf(request, linesAlone), request.signal))
}
