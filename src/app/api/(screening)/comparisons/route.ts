import { answer } from '@/app/requests/answer'
import { comparisonIndex } from '@/usecases/screening/comparisons'

export async function GET(request: Request) {
  return answer(request, comparisonIndex)
}
