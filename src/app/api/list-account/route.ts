import { answer } from '@/app/answer'
import { listAccountFor } from '@/usecases/list-account'

export async function POST(request: Request) {
  return answer(async (who) => listAccountFor(who, await request.json(), request.signal))
}
