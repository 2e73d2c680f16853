import { answer } from '@/app/requests/answer'
import { bodyOf, pair } from '@/app/requests/asked'
import { mergeAccount } from '@/usecases/directory/merge-account'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { keep, merge } = await bodyOf(request, pair)
    return mergeAccount(who, Number(keep), Number(merge))
  })
}
