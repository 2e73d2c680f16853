import { number, object, string } from 'yup'
import { letterGaps, readLetter } from '@/core/rounds/letter'
import { localDate } from '@/core/calendar/local-day'
import { countText, dateText } from '@/core/text/written'
import { db } from '@/db/connection'
import { frozenReaders, letterOf } from '@/db/rounds/letter-rows'
import { insertMailRun, mailRunOf } from '@/db/rounds/mail-rows'
import { stepsOfRound } from '@/db/rounds/contacts-to-come'
import { enqueue } from '@/db/work/enqueue'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { roundFor } from './rounds'

const schema = object({
  /** When the letter was saved that was looked at, as an ISO 8601 string. */
  seen: string().required('Save the letter first.'),
  perMinute: number()
    .integer('Whole emails a minute.')
    .min(1, 'One email a minute at least.')
    .max(100_000, '100,000 emails a minute at most.')
    .required('Say how many emails a minute.'),
})

/**
 * Begins to send the emails of a released round, with the letter as it is saved. It is refused where the letter is another than was looked
 * at, or lacks something for anybody. A round sends its emails once.
 */
export async function beginMail(actor: Actor, id: number, raw: unknown): Promise<void> {
  mustCoordinate(actor, 'Sending emails')
  const { seen, perMinute } = schema.validateSync(raw, { abortEarly: false })
  await db().transaction(async (trx) => {
    const { round, list } = await roundFor(actor, id, trx, true)
    if (!round.released_at) throw new Refused('Release the round first. Nothing was sent.')
    if (round.closed_at) throw new Refused('The round is closed, so nobody is contacted in it any more. Nothing was sent.')
    if (await mailRunOf(trx, id)) throw new Refused('The emails of this round are leaving already.')
    const due = (await stepsOfRound(trx, id)).get('email')?.due
    if (due && due > localDate(now().getTime(), list.zone))
      throw new Refused(`The emails are a later step of this round, planned for ${dateText(due)}. Nothing was sent.`)
    const letter = await letterOf(trx, list.id)
    if (!letter) throw new Refused('Write the letter first. Nothing was sent.')
    if (letter.written_at.toISOString() !== seen)
      throw new Refused(
        `${letter.by ?? 'A colleague'} saved another letter meanwhile. Nothing was sent. Load the page again and look at it.`,
      )
    const readers = await frozenReaders(trx, id)
    if (readers.length === 0) throw new Refused('Nobody is contacted by email in this round. Nothing was sent.')
    const [gap] = letterGaps(
      [readLetter(letter.subject).parts, readLetter(letter.body).parts],
      readers.map(({ values }) => values),
    )
    if (gap && gap.standIn === null)
      throw new Refused(
        `${countText(gap.people)} of ${countText(readers.length)} people have no ${gap.field}, and nothing stands in for it. Nothing was sent. Write {${gap.field}|something else} and save the letter.`,
      )
    const { written_at: _, written_by: __, by: ___, ...text } = letter
    const run = await insertMailRun(trx, { ...text, round_id: id, per_minute: perMinute, begun_by: actor.id, begun_at: now() })
    await enqueue(trx, 'send-mail', { run: run.id })
  })
}
