import { answer } from '@/app/requests/answer'
import { bodyOf, csv } from '@/app/requests/asked'
import { downloadStream } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { recordsCsv } from '@/usecases/directory/export-records'

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { lines, view, columns, sort, closedToo } = await bodyOf(request, csv)
    return downloadStream(
      await recordsCsv(who, {
        list: idOf((await params).id),
        lines,
        view,
        columns,
        sort,
        ...(typeof closedToo === 'string' ? { closedToo } : {}),
      }),
    )
  })
}
