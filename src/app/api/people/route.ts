import { answer } from '@/app/answer'
import { bodyOf, found } from '@/app/asked'
import { findPeople } from '@/usecases/directory'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, sort, offset } = await bodyOf(request, found(['name', 'organisation', 'town', 'last contact', 'newest']))
    return findPeople(who, find, sort, offset)
  })
}
