import { answer } from '@/app/requests/answer'
import { dearestPrices } from '@/usecases/sources/source-prices'

export async function GET(request: Request) {
  return answer(request, dearestPrices)
}
