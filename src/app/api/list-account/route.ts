import { answer } from '@/app/answer'
import { account, bodyOf } from '@/app/asked'
import { inParts } from '@/app/in-parts'
import { beginAccount, listAccountFor } from '@/usecases/list-account'

/** An account; with `parts` in two lines of JSON, its figures as soon as they are there and the page of records after them. */
export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { parts, ...ask } = await bodyOf(request, account)
    if (parts !== true) return listAccountFor(who, ask, request.signal)
    const { page, ...first } = await beginAccount(who, ask, request.signal)
    return inParts(first, page)
  })
}
