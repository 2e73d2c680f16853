import { answer } from '@/app/requests/answer'
import { bodyOf, profiled } from '@/app/requests/asked'
import { profileList } from '@/usecases/lists/profile-list'

export async function POST(request: Request) {
  return answer(request, async (who) => profileList(who, await bodyOf(request, profiled), request.signal))
}
