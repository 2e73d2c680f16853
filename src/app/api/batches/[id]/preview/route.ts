import { answer } from '@/app/answer'
import { bodyOf, preview } from '@/app/asked'
import { idOf } from '@/app/page-of'
import { previewBatch } from '@/usecases/map-batch'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => previewBatch(who, idOf((await params).id), await bodyOf(request, preview)))
}
