import { answer } from '@/app/requests/answer'
import { bodyOf, wording } from '@/app/requests/asked'
import { keepWording } from '@/usecases/lists/keep-wording'

export async function POST(request: Request) {
  return answer(request, async (who) => keepWording(who, await bodyOf(request, wording)))
}
