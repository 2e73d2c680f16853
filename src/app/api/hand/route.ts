import { answer } from '@/app/answer'
import { balanceInHand } from '@/usecases/list-in-hand'

export async function GET(request: Request) {
  return answer(request, async (who) => ({ on: await balanceInHand(who) }))
}
