import { answer } from '@/app/answer'
import { bodyOf, found } from '@/app/asked'
import { findPremises } from '@/usecases/premises'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, sort, offset } = await bodyOf(request, found(['name', 'town', 'roof area']))
    return findPremises(who, find, sort, offset)
  })
}
