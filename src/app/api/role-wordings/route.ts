import { answer } from '@/app/answer'
import { bodyOf, wording } from '@/app/asked'
import { keepWording } from '@/usecases/role-wordings'

export async function POST(request: Request) {
  return answer(request, async (who) => keepWording(who, await bodyOf(request, wording)))
}
