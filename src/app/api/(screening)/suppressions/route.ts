import { answer } from '@/app/requests/answer'
import { bodyOf, suppressed } from '@/app/requests/asked'
import { REASONS } from '@/core/columns/person-record'
import { suppressionIndex } from '@/usecases/screening/suppressions'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, reason, offset } = await bodyOf(request, suppressed(REASONS))
    return suppressionIndex(who, find, reason ?? null, offset)
  })
}
