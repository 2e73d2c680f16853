import { CUSTOM_KINDS, type CustomField } from '@/core/clean/custom'
import { fold } from '@/core/clean/fold'
import { squeeze } from '@/core/clean/name'
import { STANDARD_FIELDS } from '@/core/clean/standard-fields'
import { FIELDS } from '@/core/match/columns'
import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { insertField } from '@/db/directory/custom-fields'

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
  if (!made) throw new Refused(`There is a field called ${name} already.`)
  return made
}
