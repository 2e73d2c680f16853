import { answer } from '@/app/requests/answer'
import { changeSources } from '@/usecases/changes/change-sources'

/** The sources of changes that lists can ask for. */
export async function GET(request: Request) {
  return answer(request, changeSources)
}
