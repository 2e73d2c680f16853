import { answer } from '@/app/answer'
import { idOf } from '@/app/page-of'
import { batchAccount } from '@/usecases/batches'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => batchAccount(who, idOf((await params).id)))
}
