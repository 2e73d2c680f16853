import { answer } from '@/app/requests/answer'
import { SUBJECTS } from '@/core/records/subject'
import { Refused } from '@/usecases/team/actor'
import { besideRecord } from '@/usecases/directory/record-beside'

export async function GET(request: Request, { params }: { params: Promise<{ subject: string; id: string }> }) {
  return answer(request, async (who) => {
    const { subject, id } = await params
    const known = SUBJECTS.find((s) => s === subject)
    if (!known) throw new Refused('There is no such record in the directory.', 'not found')
    return besideRecord(who, known, Number(id))
  })
}
