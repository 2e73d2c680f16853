import { answer } from '@/app/answer'
import { REASONS } from '@/core/columns/person-record'
import { suppressionIndex } from '@/usecases/suppressions'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, reason, offset } = await request.json()
    return suppressionIndex(who, String(find ?? ''), REASONS.includes(reason) ? reason : null, offset ?? 0)
  })
}
