import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { variantsOfPlan } from '@/usecases/rounds/plan-variants'

/** What the plan of a round would come to if one thing of it were changed. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => variantsOfPlan(who, idOf((await params).id)))
}
