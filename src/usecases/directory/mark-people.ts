import { insertAct } from '@/db/directory/act-rows'
import { customKey, type CustomValues } from '@/core/clean/custom'
import { squeeze } from '@/core/clean/name'
import { FIELD } from '@/core/clean/standard-fields'
import type { ListView } from '@/core/lists/view'
import { subjectOf } from '@/core/lists/line'
import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import { answerFor } from '@/usecases/lists/list-account'
import { MOST_PICKED } from '@/usecases/lists/list-in-hand'
import { countText } from '@/core/text/written'
import { lockMarks, updateHolder, updateTag } from '@/db/directory/person-rows'
import { idOfName } from '@/db/team/colleagues'

/** Some people by their numbers, or everybody behind a tab or figure of some lines. */
export type Marked = { people: number[] } | { lines: unknown; view: ListView; having?: { key: string; label: string | null } | null }

/** What is written on each of them. */
export type Mark = { tag: string } | { untag: string } | { holder: string } | { note: string }

const BLOCK = 5000

/** What an act on many people came to: how many it changed, how many had it so already, and the act itself, by which it is undone. */
export interface MarkedCount {
  act: number
  changed: number
  already: number
}

/**
 * Tags people, takes a tag away, gives them to somebody, or writes a note on each, every one with an entry in their ledger.
 * Who has the tag or holder already is left alone and counted. Each block of 5,000 is a transaction of its own; all of them are
 * one act, which can be undone.
 */
export async function markPeople(actor: Actor, who: Marked, mark: Mark): Promise<MarkedCount> {
  const text = squeeze(String(Object.values(mark)[0] ?? '')).slice(0, 2000)
  if (text === '') throw new Refused('Write something first.')
  if (('tag' in mark || 'untag' in mark) && text.length > 80) throw new Refused('A tag has at most 80 letters.')
  if ('holder' in mark && !(await idOfName(db(), text))) throw new Refused(`Nobody on the team is called ${text}.`)
  const ids = await idsOf(actor, who)
  const [{ id: act }] = await insertAct(db(), Object.keys(mark)[0], text, actor.id)
  let changed = 0
  for (let i = 0; i < ids.length; i += BLOCK) changed += await markBlock(actor, ids.slice(i, i + BLOCK), mark, text, act)
  return { act, changed, already: ids.length - changed }
}

async function idsOf(actor: Actor, who: Marked): Promise<number[]> {
  if ('people' in who) {
    if (who.people.length > MOST_PICKED) throw new Refused(`More than ${countText(MOST_PICKED)} people cannot be chosen at once.`)
    return [...new Set(who.people.filter(Number.isSafeInteger))]
  }
  const { lines, answer } = await answerFor(actor, who, MOST_PICKED + 1)
  if (subjectOf(lines) !== 'person') throw new Refused('Only people can be tagged, handed over or noted on.')
  if (answer.ids.length > MOST_PICKED)
    throw new Refused(`More than ${countText(MOST_PICKED)} people cannot be marked at once. Narrow it first; nothing was changed.`)
  return answer.ids
}

function markBlock(actor: Actor, ids: number[], mark: Mark, text: string, act: number): Promise<number> {
  return db().transaction(async (trx) => {
    const people: { id: number; tags: string[]; custom: CustomValues }[] = await lockMarks(trx, ids)
    const common = { at: now(), actor: actor.id, act }
    if ('note' in mark) {
      await writeEntries(
        trx,
        people.map(({ id }) => ({ ...common, person: id, kind: 'note' as const, note: text })),
        now(),
      )
      return people.length
    }
    if ('holder' in mark) {
      const others = people.filter(({ custom }) => custom[FIELD.holder] !== text)
      await updateHolder(
        trx,
        others.map((p) => p.id),
        text,
      )
      await writeEntries(
        trx,
        others.map(({ id, custom }) => ({
          ...common,
          person: id,
          kind: 'change' as const,
          field: customKey(FIELD.holder),
          before: custom[FIELD.holder] ?? null,
          after: text,
        })),
        now(),
      )
      return others.length
    }
    const add = 'tag' in mark
    const others = people.filter(({ tags }) => tags.includes(text) !== add)
    const after = (tags: string[]) => (add ? [...tags, text] : tags.filter((tag) => tag !== text))
    await updateTag(
      trx,
      others.map((p) => p.id),
      add,
      text,
    )
    await writeEntries(
      trx,
      others.map(({ id, tags }) => ({
        ...common,
        person: id,
        kind: 'change' as const,
        field: 'tags',
        before: tags.join(', ') || null,
        after: after(tags).join(', ') || null,
      })),
      now(),
    )
    return others.length
  })
}
