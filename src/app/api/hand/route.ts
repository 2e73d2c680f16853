import { answer } from '@/app/answer'
import { balanceInHand } from '@/usecases/list-in-hand'

export async function GET() {
  return answer(async (who) => ({ on: await balanceInHand(who) }))
}
