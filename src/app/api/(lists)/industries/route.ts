import { answer } from '@/app/requests/answer'
import { findIndustries, industryTitles } from '@/usecases/lists/find-industries'

/** Industries whose titles say some words (`find`), or the titles of some codes (`code`, any number). */
export async function GET(request: Request) {
  return answer(request, async (who) => {
    const { searchParams } = new URL(request.url)
    return { industries: findIndustries(who, searchParams.get('find') ?? ''), titles: industryTitles(who, searchParams.getAll('code')) }
  })
}
