import { answer } from '@/app/requests/answer'
import { doublesPage, openPair } from '@/usecases/directory/possible-duplicates'

/** The queue of doubles; with two numbers, those two records side by side. */
export async function GET(request: Request) {
  const { searchParams } = new URL(request.url)
  const [a, b] = [searchParams.get('a'), searchParams.get('b')]
  return answer(request, (who) => (a && b ? openPair(who, Number(a), Number(b)) : doublesPage(who)))
}
