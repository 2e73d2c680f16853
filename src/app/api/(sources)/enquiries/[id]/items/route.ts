import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { ITEM_STATES } from '@/core/sources/enquiry'
import { Refused } from '@/usecases/team/actor'
import { enquiryItems } from '@/usecases/sources/enquiry-items'

/** What an enquiry asked about that stands one way, a page of it. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { searchParams } = new URL(request.url)
    const state = ITEM_STATES.find((s) => s === searchParams.get('state'))
    if (!state) throw new Refused('No row has this outcome.', 'not found')
    return enquiryItems(who, idOf((await params).id), state, Number(searchParams.get('offset') ?? 0))
  })
}
