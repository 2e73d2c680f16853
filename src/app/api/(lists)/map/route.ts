import { answer } from '@/app/requests/answer'
import { baseMap } from '@/usecases/lists/areas'

export async function GET(request: Request) {
  return answer(
    request,
    async (who) =>
      new Response(await baseMap(who), { headers: { 'content-type': 'application/geo+json', 'cache-control': 'private, max-age=3600' } }),
  )
}
