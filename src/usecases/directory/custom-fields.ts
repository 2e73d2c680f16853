import { cleanCustom, CUSTOM_KINDS, type CustomField, customIdOf, customKey } from '@/core/clean/custom'
import { fold } from '@/core/clean/fold'
import { squeeze } from '@/core/clean/name'
import { STANDARD_FIELDS, standardFieldsOf } from '@/core/clean/standard-fields'
import { type BatchKind, FIELDS } from '@/core/match/columns'
import { db, type Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { customFields, insertField } from '@/db/directory/custom-fields'
import { lockCustom, updateCustom } from '@/db/directory/person-rows'

/** The fields by number that a batch of a kind can bring: of people, of their organisations too. */
export async function intakeFields(trx: Knex, kind: BatchKind): Promise<CustomField[]> {
  if (kind === 'premises') return standardFieldsOf('premises')
  return kind === 'people' ? [...(await customFields(trx)), ...standardFieldsOf('organisation')] : []
}

/** The fields the team declared for itself. */
export async function listCustomFields(_actor: Actor): Promise<CustomField[]> {
  return (await customFields(db())).filter(({ id }) => id > 0)
}

/** Declares a field. Throws Refused where its name is taken, by one of ours or one that every person has. */
export async function declareField(actor: Actor, asked: { name: string; kind: string; choices: string[] }): Promise<CustomField> {
  mustCoordinate(actor, 'Declaring a field')
  const name = squeeze(String(asked.name))
  const kind = CUSTOM_KINDS.find((k) => k === asked.kind)
  if (name === '' || name.length > 60) throw new Refused('Give the field a name of at most 60 letters.')
  if (!kind) throw new Refused('A field holds text, a number, a date, a choice, or yes or no.')
  const choices =
    kind === 'choice'
      ? [
          ...new Map(
            asked.choices
              .map((choice) => squeeze(String(choice)))
              .filter(Boolean)
              .map((choice) => [fold(choice), choice]),
          ).values(),
        ]
      : []
  if (kind === 'choice' && choices.length < 2) throw new Refused('Name at least two things to choose from.')
  if (choices.length > 200 || choices.some((choice) => choice.length > 100))
    throw new Refused('A choice has at most 200 values of at most 100 letters.')
  if (
    [...FIELDS.people.map(([, own]) => own), ...STANDARD_FIELDS.filter((f) => f.of !== 'premises').map((f) => f.name)].some(
      (own) => fold(own) === fold(name),
    )
  )
    throw new Refused(`${name} is a field that every person has already.`)
  const [made] = await insertField(db(), name, kind, choices, actor.id)
  if (!made) throw new Refused(`There is a field of the name ${name} already.`)
  return made
}

/** Sets a field of somebody, or empties it. */
export async function setCustom(actor: Actor, person: number, id: number, raw: string): Promise<void> {
  await db().transaction(async (trx) => {
    const field = (await customFields(trx)).find((f) => f.id === id)
    const row = await lockCustom(trx, person)
    if (!field || !row) throw new Refused('There is no such field, or nobody with this number in the directory any more.', 'not found')
    const value = cleanCustom(field, String(raw).slice(0, 4000))
    if (value === undefined) throw new Refused(`“${squeeze(raw)}” cannot be a value of ${field.name}.`)
    const before: string | null = row.custom[id] ?? null
    if (value === before) return
    const { [id]: _, ...others } = row.custom
    await updateCustom(trx, person, value, others, id)
    await writeEntries(trx, [{ person, kind: 'change', field: customKey(id), before, after: value, at: now(), actor: actor.id }], now())
  })
}

/** What fields are called, for entries that name them by their number. */
export async function fieldNames(trx: Knex): Promise<(field: string) => string> {
  const named = new Map([...(await customFields(trx)), ...STANDARD_FIELDS].map(({ id, name }) => [id, name]))
  return (field) => {
    const id = customIdOf(field)
    return id === null ? field : (named.get(id) ?? 'a field of our own')
  }
}
