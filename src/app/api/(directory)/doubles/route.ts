import { answer } from '@/app/requests/answer'
import { doublesPage } from '@/usecases/directory/possible-duplicates'
import { openPair } from '@/usecases/directory/open-pair'

/** The queue of doubles; with two numbers, those two records side by side. */
export async function GET(request: Request) {
  const { searchParams } = new URL(request.url)
  const [a, b] = [searchParams.get('a'), searchParams.get('b')]
  return answer(request, (who) => (a && b ? openPair(who, Number(a), Number(b)) : doublesPage(who)))
}
