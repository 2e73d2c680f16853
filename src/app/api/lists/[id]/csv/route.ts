import { answer } from '@/app/answer'
import { bodyOf, csv } from '@/app/asked'
import { downloadStream } from '@/app/download'
import { idOf } from '@/app/page-of'
import { recordsCsv } from '@/usecases/export-records'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { lines, view, closedToo } = await bodyOf(request, csv)
    return downloadStream(await recordsCsv(who, { list: idOf((await params).id), lines, view, ...(typeof closedToo === 'string' ? { closedToo } : {}) }))
  })
}
