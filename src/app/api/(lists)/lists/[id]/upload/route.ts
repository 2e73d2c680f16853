import { answer } from '@/app/requests/answer'
import { idOf } from '@/app/requests/page-of'
import { Refused } from '@/usecases/team/actor'
import { pickUpload } from '@/usecases/lists/pick-upload'

/** Looks up whom the rows of a file name, as it streams in; nothing of it is stored. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async (who) => {
    const name = new URL(request.url).searchParams.get('name') ?? ''
    if (name === '' || !request.body) throw new Refused('Choose a file first.')
    return pickUpload(who, idOf((await params).id), {
      name: name.slice(0, 200),
      bytes: request.body as unknown as AsyncIterable<Uint8Array>,
    })
  })
}
