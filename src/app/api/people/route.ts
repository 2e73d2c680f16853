import { answer } from '@/app/answer'
import { findPeople } from '@/usecases/directory'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, sort, offset } = await request.json()
    return findPeople(who, String(find ?? ''), sort, offset ?? 0)
  })
}
