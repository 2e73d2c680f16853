import { answer } from '@/app/requests/answer'
import { bodyOf, found } from '@/app/requests/asked'
import { findPremises } from '@/usecases/directory/find-premises'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, sort, offset } = await bodyOf(request, found(['name', 'town', 'roof area']))
    return findPremises(who, find, sort, offset)
  })
}
