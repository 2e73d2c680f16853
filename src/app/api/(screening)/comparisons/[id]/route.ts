import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { takeTheirFile } from '@/usecases/screening/take-their-file'
import { Refused } from '@/usecases/team/actor'

/** A file that the other organisation sent: its offer or its answer. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    if (!request.body) throw new Refused('Choose a file first.')
    return { part: await takeTheirFile(who, idOf((await params).id), request.body as unknown as AsyncIterable<Uint8Array>) }
  })
}
