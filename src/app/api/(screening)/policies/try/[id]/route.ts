import { answer } from '@/app/requests/answer'
import { bodyOf, policyTrial } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { tryPolicy } from '@/usecases/screening/try-policy'

/** What other rules would do to a list. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) =>
    tryPolicy(who, { list: idOf((await params).id), ...(await bodyOf(request, policyTrial)) }, request.signal),
  )
}
