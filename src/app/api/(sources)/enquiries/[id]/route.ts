import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { openEnquiry } from '@/usecases/sources/open-enquiry'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => openEnquiry(who, idOf((await params).id)))
}
