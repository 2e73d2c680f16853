import { answer } from '@/app/requests/answer'
import { bodyOf, changes } from '@/app/requests/asked'
import { changesPage } from '@/usecases/changes/changes-page'

/** Whoever asks: their changes, the account and a page of them. */
export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { tab, list, freshness, offset } = await bodyOf(request, changes)
    return changesPage(who, { tab, list, freshness: freshness ?? null, offset })
  })
}
