import { answer } from '@/app/answer'
import { findPremises } from '@/usecases/premises'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, sort, offset } = await request.json()
    return findPremises(who, String(find ?? ''), sort, offset ?? 0)
  })
}
