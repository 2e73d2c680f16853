import { answer } from '@/app/requests/answer'
import { account, bodyOf } from '@/app/requests/asked'
import { inParts } from '@/app/requests/in-parts'
import { beginAccount, listAccountFor } from '@/usecases/lists/list-account'

/** An account; with `parts` in two lines of JSON, its figures as soon as they are there and the page of records after them. */
export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { parts, ...ask } = await bodyOf(request, account)
    if (parts !== true) return listAccountFor(who, ask, request.signal)
    const { page, ...first } = await beginAccount(who, ask, request.signal)
    return inParts(first, page)
  })
}
