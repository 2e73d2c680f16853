import { answer } from '@/app/requests/answer'
import { importChanges } from '@/usecases/changes/import-changes'
import { Refused } from '@/usecases/team/actor'

/** Imports a file of changes as it streams in. */
export async function POST(request: Request) {
  return answer(request, async (who) => {
    const name = new URL(request.url).searchParams.get('name') ?? ''
    if (name === '' || !request.body) throw new Refused('Choose a file first.')
    return importChanges(who, { name: name.slice(0, 200), bytes: request.body as unknown as AsyncIterable<Uint8Array> })
  })
}
