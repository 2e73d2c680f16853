import { answer } from '@/app/requests/answer'
import { bodyOf, csv } from '@/app/requests/asked'
import { download, downloadStream } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { aboutRecords } from '@/usecases/directory/about-records'
import { recordsCsv } from '@/usecases/directory/export-records'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { closedToo, about, ...asked } = await bodyOf(request, csv)
    const of = { list: idOf((await params).id), ...asked }
    if (about === true) return download(await aboutRecords(who, of))
    return downloadStream(await recordsCsv(who, { ...of, ...(typeof closedToo === 'string' ? { closedToo } : {}) }))
  })
}
