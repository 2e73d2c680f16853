import { object, number, string } from 'yup'
import { trimmed } from '@/core/clean/name'
import { recordStands } from '@/db/changes/report-rows'
import { insertIntroduction, lockIntroduction, updateIntroduction } from '@/db/contact/tie-rows'
import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { colleagueStands } from '@/db/team/task-rows'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'

const note = () => string().transform(trimmed).max(1000, 'A note holds at most 1,000 characters.').nullable().default(null)
const schema = object({
  person: number().integer().positive().required(),
  of: string().max(200).required('Say whom you ask.'),
  through: number().integer().positive().nullable().default(null),
  note: note(),
})

/** Asks a colleague to open the way to somebody. Throws Refused where they were asked already. */
export async function askIntroduction(actor: Actor, input: unknown): Promise<number> {
  const asked = schema.validateSync(input, { abortEarly: false })
  if (asked.of === actor.id) throw new Refused('Ask a colleague: you cannot introduce yourself.')
  return db().transaction(async (trx) => {
    if (!(await recordStands(trx, 'person', asked.person))) throw new Refused('This person is no longer in the directory.', 'not found')
    if (asked.through !== null && !(await recordStands(trx, 'person', asked.through)))
      throw new Refused('The person it should go through is no longer in the directory.', 'not found')
    if (!(await colleagueStands(trx, asked.of))) throw new Refused('This colleague is no longer on the team.', 'not found')
    const made = await insertIntroduction(trx, {
      person_id: asked.person,
      asked_by: actor.id,
      asked_of: asked.of,
      through_id: asked.through,
      note: asked.note || null,
      asked_at: now(),
    })
    if (made === null) throw new Refused('You have asked them already, and they have not answered yet.')
    return made
  })
}

/** Accepts or declines an introduction one is asked for, by an entry of the person's ledger. */
export async function answerIntroduction(actor: Actor, id: number, accepted: boolean, raw: unknown = null): Promise<void> {
  const answer = note().validateSync(raw) || null
  await db().transaction(async (trx) => {
    const row = await lockIntroduction(trx, id)
    if (!row || row.asked_of !== actor.id) throw new Refused('You are not asked for such an introduction.', 'not found')
    if (row.state !== 'asked') throw new Refused('This introduction is settled already.')
    const at = now()
    const [entry] = await writeEntries(
      trx,
      [{ person: row.person_id, kind: 'introduction', at, actor: actor.id, result: accepted ? 'accepted' : 'declined', note: answer }],
      at,
    )
    await updateIntroduction(trx, id, { state: accepted ? 'accepted' : 'declined', answer, answered_at: at, entry_id: entry })
  })
}

/** Takes back what one asked for and nobody answered yet. */
export async function takeBackIntroduction(actor: Actor, id: number): Promise<void> {
  await db().transaction(async (trx) => {
    const row = await lockIntroduction(trx, id)
    if (!row || row.asked_by !== actor.id) throw new Refused('You have asked for no such introduction.', 'not found')
    if (row.state !== 'asked') throw new Refused('This introduction is settled already.')
    await updateIntroduction(trx, id, { state: 'taken back', answer: null, answered_at: now(), entry_id: null })
  })
}
