import { answer } from '@/app/requests/answer'
import { bodyOf, found } from '@/app/requests/asked'
import { findOrganisations } from '@/usecases/directory/find-organisations'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, sort, offset } = await bodyOf(request, found(['name', 'people', 'town']))
    return findOrganisations(who, find, sort, offset)
  })
}
