import { answer } from '@/app/requests/answer'
import { area, bodyOf } from '@/app/requests/asked'
import { areasOf, listAreas } from '@/usecases/lists/areas'
import { keepArea } from '@/usecases/lists/keep-area'

/** Areas by their numbers, or every named one. */
export async function GET(request: Request) {
  return answer(request, (who) => {
    const ids = new URL(request.url).searchParams.get('ids')
    return ids === null ? listAreas(who) : areasOf(who, ids.split(',').map(Number))
  })
}

/** Keeps an area, named or drawn for one line. */
export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { name = '', shape, shared = false, named = false, replaces = null } = await bodyOf(request, area)
    return keepArea(who, {
      name,
      shape,
      shared: shared === true,
      named: named === true,
      replaces: replaces === null ? null : Number(replaces),
    })
  })
}
