import { answer } from '@/app/answer'
import { FIELDS, type BatchKind } from '@/core/match/columns'
import { Refused } from '@/usecases/actor'
import { LARGEST_FILE, receiveFile } from '@/usecases/receive-file'

export async function POST(request: Request) {
  return answer(async (who) => {
    if (Number(request.headers.get('content-length') ?? 0) > LARGEST_FILE + 65_536) throw new Refused('The file is larger than 64 MB. Split it and bring in the parts one after the other.')
    const form = await request.formData().catch(() => null)
    const file = form?.get('file')
    if (!(file instanceof File)) throw new Refused('Choose a file first.')
    const kind = String(form?.get('kind') ?? '')
    return { id: await receiveFile(who, { name: file.name, bytes: Buffer.from(await file.arrayBuffer()), kind: Object.hasOwn(FIELDS, kind) ? (kind as BatchKind) : undefined }) }
  })
}
