import { answer } from '@/app/answer'
import { findIndustries } from '@/usecases/find-industries'

export async function GET(request: Request) {
  return answer(async (who) => ({ industries: findIndustries(who, new URL(request.url).searchParams.get('find') ?? '') }))
}
