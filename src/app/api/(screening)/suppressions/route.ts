import { answer } from '@/app/requests/answer'
import { bodyOf, suppressed } from '@/app/requests/asked'
import { suppressionIndex } from '@/usecases/screening/suppression-index'
import { REASONS } from '@/core/records/suppression'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, reason, offset } = await bodyOf(request, suppressed(REASONS))
    return suppressionIndex(who, find, reason ?? null, offset)
  })
}
