import { answer } from '@/app/answer'
import { bodyOf, found } from '@/app/asked'
import { findOrganisations } from '@/usecases/directory'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, sort, offset } = await bodyOf(request, found(['name', 'people', 'town']))
    return findOrganisations(who, find, sort, offset)
  })
}
