import { customKey, type CustomValues } from '@/core/clean/custom'
import { FIELD } from '@/core/clean/standard-fields'
import { db, type Knex } from '@/db/connection'
import { type NewEntry, writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { type Actor, mayCoordinate, Refused } from '@/usecases/team/actor'
import { lockMarks, restoreHolders, restoreTag } from '@/db/directory/person-rows'
import { entriesOfAct, lockAct, updateUndone } from '@/db/directory/act-rows'

const BLOCK = 5000

interface Act {
  id: number
  kind: 'tag' | 'untag' | 'holder' | 'note'
  text: string
  actor_id: string
  undone_at: Date | null
}

/** What undoing an act came to: how many went back, and how many were worked on since and are kept as they are. */
export interface ActUndone {
  back: number
  kept: number
}

/**
 * Undoes what was written on many people at once, each by an entry that reverses its own. Whoever did it may, and coordinators.
 * Where somebody set it otherwise since, that stays, and is counted.
 */
export async function undoAct(actor: Actor, id: number): Promise<ActUndone> {
  return db().transaction(async (trx) => {
    const act: Act | undefined = Number.isSafeInteger(id) ? await lockAct(trx, id) : undefined
    if (!act || (act.actor_id !== actor.id && !mayCoordinate(actor))) throw new Refused('You have nothing to undo here.', 'not found')
    if (act.undone_at) throw new Refused('This is undone already.')
    const entries: { id: number; person_id: number; before: string | null }[] = await entriesOfAct(trx, id)
    let back = 0
    for (let i = 0; i < entries.length; i += BLOCK) back += await undoBlock(trx, actor, act, entries.slice(i, i + BLOCK))
    await updateUndone(trx, id, actor.id)
    return { back, kept: entries.length - back }
  })
}

async function undoBlock(
  trx: Knex,
  actor: Actor,
  act: Act,
  entries: { id: number; person_id: number; before: string | null }[],
): Promise<number> {
  const common = { at: now(), actor: actor.id, act: act.id }
  if (act.kind === 'note') {
    await writeEntries(
      trx,
      entries.map((e) => ({
        ...common,
        person: e.person_id,
        kind: 'reversed' as const,
        reverses: e.id,
        note: `the note “${act.text.slice(0, 80)}” was taken back`,
      })),
      now(),
    )
    return entries.length
  }
  const people: { id: number; tags: string[]; custom: CustomValues }[] = await lockMarks(
    trx,
    entries.map((e) => e.person_id),
  )
  const known = new Map(people.map((p) => [p.id, p]))
  const written: NewEntry[] = []
  const change = (person: number, field: string, before: string | null, after: string | null, reverses: number) =>
    written.push({ ...common, person, kind: 'change', field, before, after, reverses })
  if (act.kind === 'holder') {
    const mine = entries.filter((e) => known.get(e.person_id)?.custom[FIELD.holder] === act.text)
    await restoreHolders(trx, JSON.stringify(mine.map((e) => ({ id: e.person_id, before: e.before }))))
    for (const e of mine) change(e.person_id, customKey(FIELD.holder), act.text, e.before, e.id)
  } else {
    const had = act.kind === 'tag'
    const mine = entries.filter((e) => known.get(e.person_id)?.tags.includes(act.text) === had)
    await restoreTag(
      trx,
      mine.map((e) => e.person_id),
      had,
      act.text,
    )
    for (const e of mine) {
      const tags = (known.get(e.person_id) as { tags: string[] }).tags
      const after = had ? tags.filter((tag) => tag !== act.text) : [...tags, act.text]
      change(e.person_id, 'tags', tags.join(', ') || null, after.join(', ') || null, e.id)
    }
  }
  await writeEntries(trx, written, now())
  return written.length
}
