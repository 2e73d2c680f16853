import { answer } from '@/app/requests/answer'
import { changeKinds } from '@/usecases/changes/change-kinds'

/** The kinds of changes that lists can ask for. */
export async function GET(request: Request) {
  return answer(request, async (who) =>
    (await changeKinds(who)).map(({ id, name, asks, opener, freshDays }) => ({ id, name, asks, opener, freshDays })),
  )
}
