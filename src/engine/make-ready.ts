import { FIELD } from '@/core/clean/standard-fields'
import { levelOf } from '@/core/criteria/level'
import { functionOf } from '@/core/criteria/role-function'
import { readied } from '@/core/criteria/wording'
import type { ReadModel } from './read-model'
import { CHANNELS } from '@/core/records/channels'

/** So many texts are made ready before others are answered: some milliseconds. */
const TEXTS = 1000

/**
 * Makes ready what the first questions would wait for: the stems of texts, what roles tell, and when everybody was last
 * contacted. In turns, so that others are answered in between; ends when the directory was read anew.
 */
export async function makeReady(model: ReadModel): Promise<void> {
  const { directory } = model
  const { people, organisations } = directory
  const texts = [
    people.role,
    organisations.name,
    people.custom.get(FIELD.about),
    people.custom.get(FIELD.earlier),
    organisations.custom.get(FIELD.description),
  ]
  const steps: (() => boolean)[] = [
    ...texts.flatMap((column) => (column ? [() => readied(column, TEXTS)] : [])),
    ...[levelOf, functionOf].map((of) => () => {
      people.role.derived<unknown>(of as (word: string) => unknown)
      return true
    }),
    () => {
      people.contactSums(CHANNELS, null)
      return true
    },
  ]
  for (const step of steps) {
    do {
      await new Promise((resolve) => setImmediate(resolve))
      if (model.directory !== directory) return
    } while (!step())
  }
}
