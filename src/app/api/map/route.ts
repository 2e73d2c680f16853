import { answer } from '@/app/answer'
import { baseMap } from '@/usecases/areas'

export async function GET() {
  return answer(async (who) => new Response(await baseMap(who), { headers: { 'content-type': 'application/geo+json', 'cache-control': 'private, max-age=3600' } }))
}
