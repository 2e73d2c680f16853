import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { mailAccount } from '@/usecases/rounds/mail-account'

/** How far the emails of a round are. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => mailAccount(who, idOf((await params).id)))
}
