import { answer } from '@/app/requests/answer'
import { type BatchKind, FIELDS } from '@/core/match/columns'
import { Refused } from '@/usecases/team/actor'
import { receiveFile } from '@/usecases/intake/receive-file'

/** Takes a file in as it streams; its name, and what it holds where that is known, stand in the address. */
export async function POST(request: Request) {
  return answer(request, async (who) => {
    const { searchParams } = new URL(request.url)
    const [name, kind] = [searchParams.get('name') ?? '', searchParams.get('kind') ?? '']
    if (name === '' || !request.body) throw new Refused('Choose a file first.')
    return {
      id: await receiveFile(who, {
        name,
        bytes: request.body as unknown as AsyncIterable<Uint8Array>,
        kind: Object.hasOwn(FIELDS, kind) ? (kind as BatchKind) : undefined,
      }),
    }
  })
}
