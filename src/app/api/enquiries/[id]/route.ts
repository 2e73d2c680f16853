import { answer } from '@/app/answer'
import { idOf } from '@/app/page-of'
import { openEnquiry } from '@/usecases/enquiries'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => openEnquiry(who, idOf((await params).id)))
}
