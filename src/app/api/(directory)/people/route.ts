import { answer } from '@/app/requests/answer'
import { bodyOf, found } from '@/app/requests/asked'
import { findPeople } from '@/usecases/directory/find-people'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, sort, offset } = await bodyOf(request, found(['name', 'organisation', 'town', 'last contact', 'newest']))
    return findPeople(who, find, sort, offset)
  })
}
