import { answer } from '@/app/requests/answer'
import { bodyOf, preview } from '@/app/requests/asked'
import { idOf } from '@/app/requests/page-of'
import { previewBatch } from '@/usecases/intake/preview-batch'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => previewBatch(who, idOf((await params).id), await bodyOf(request, preview)))
}
