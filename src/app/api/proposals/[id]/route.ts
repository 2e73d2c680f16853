import { answer } from '@/app/answer'
import { idOf } from '@/app/page-of'
import { proposalEffect } from '@/usecases/proposals'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(async (who) => proposalEffect(who, idOf((await params).id), request.signal))
}
