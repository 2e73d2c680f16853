import { answer } from '@/app/answer'
import { mergeAccount } from '@/usecases/merge-people'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { keep, merge } = await request.json()
    return mergeAccount(who, Number(keep), Number(merge))
  })
}
