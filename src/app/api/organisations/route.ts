import { answer } from '@/app/answer'
import { findOrganisations } from '@/usecases/directory'

export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { find, sort, offset } = await request.json()
    return findOrganisations(who, String(find ?? ''), sort, offset ?? 0)
  })
}
