import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { batchAccount } from '@/usecases/intake/batch-account'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => batchAccount(who, idOf((await params).id)))
}
