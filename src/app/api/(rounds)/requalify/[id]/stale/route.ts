import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { staleEmails } from '@/usecases/rounds/stale-emails'

/** How many email addresses of a list were not checked lately. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => staleEmails(who, idOf((await params).id)))
}
