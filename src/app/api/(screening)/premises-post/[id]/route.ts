import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { screenPremises } from '@/usecases/screening/screen-premises'

export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => screenPremises(who, idOf((await params).id)))
}
