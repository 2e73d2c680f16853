import { answer } from '@/app/requests/answer'
import { download } from '@/app/requests/download'
import { idOf } from '@/app/requests/page-of'
import { alignmentPage, roundLabels } from '@/usecases/rounds/round-labels'

/** Address labels as PDF; with `align`, the outlines of their sheet. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const { align, ...asked } = Object.fromEntries(new URL(request.url).searchParams)
    const id = idOf((await params).id)
    return download(await (align === 'yes' ? alignmentPage(who, id, asked) : roundLabels(who, id, asked)))
  })
}
