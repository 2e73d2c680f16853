import { answer } from '@/app/requests/answer'
import { bodyOf, proposal } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { sideOf } from '@/usecases/lists/compare-editions'
import { PAGE } from '@/usecases/lists/list-account'
import { proposalEffect } from '@/usecases/lists/proposal-effect'

type Given = { params: Promise<{ id: string }> }

/** What a proposal would do, in figures. */
export async function GET(request: Request, { params }: Given) {
  return answer(request, async (who) => proposalEffect(who, idOf((await params).id), 'left', { offset: 0, limit: 0 }, request.signal))
}

/** The same with a page of those who would leave, join or stay. */
export async function POST(request: Request, { params }: Given) {
  return answer(request, async (who) => {
    const { tab, offset } = await bodyOf(request, proposal)
    return proposalEffect(who, idOf((await params).id), sideOf(tab), { offset: offset, limit: PAGE }, request.signal)
  })
}
