import { answer } from '@/app/answer'
import { bodyOf, profiled } from '@/app/asked'
import { profileList } from '@/usecases/about-list'

export async function POST(request: Request) {
  return answer(request, async (who) => profileList(who, await bodyOf(request, profiled), request.signal))
}
