import { answer } from '@/app/answer'
import { bodyOf, pair } from '@/app/asked'
import { mergeAccount } from '@/usecases/merge-people'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { keep, merge } = await bodyOf(request, pair)
    return mergeAccount(who, Number(keep), Number(merge))
  })
}
