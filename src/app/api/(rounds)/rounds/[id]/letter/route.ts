import { answer } from '@/app/requests/answer'
import { bodyOf, letterDraft } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { checkLetter } from '@/usecases/rounds/check-letter'

/** A letter held against everybody who would get it. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { letter, n } = await bodyOf(request, letterDraft)
    return checkLetter(who, idOf((await params).id), letter, n)
  })
}
