import { answer } from '@/app/answer'
import { profileList } from '@/usecases/about-list'

export async function POST(request: Request) {
  return answer(request, async (who) => profileList(who, await request.json(), request.signal))
}
