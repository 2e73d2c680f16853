import { answer } from '@/app/requests/answer'
import { bodyOf, contactToCheck } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { checkContact } from '@/usecases/rounds/check-contact'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { person, channel } = await bodyOf(request, contactToCheck)
    return checkContact(who, idOf((await params).id), person, channel)
  })
}
