import { answer } from '@/app/requests/answer'
import { balanceInHand } from '@/usecases/lists/list-in-hand'

export async function GET(request: Request) {
  return answer(request, async (who) => ({ on: await balanceInHand(who) }))
}
