import { array, lazy, mixed, object, string, tuple, ValidationError } from 'yup'
import { isDay, localDate } from '@/core/calendar/local-day'
import { fold } from '@/core/clean/fold'
import { squeeze } from '@/core/clean/name'
import { type CustomField, customKey } from '@/core/clean/custom'
import { type BatchKind, type FieldRules, FIELDS, type Mapping, mappingLacks, RULED, RULES } from '@/core/match/columns'
import type { HowMapped } from '@/core/match/how-mapped'
import { type MadeColumn, type Shaping, shapingLacks } from '@/core/match/shaping'
import type { Batch, BatchOptions } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from '@/usecases/team/actor'
import { batchFor } from './batch-for'
import { intakeFields } from '@/usecases/directory/custom-fields'
import { dateText } from '@/core/text/written'
import { registerNames } from '@/db/intake/register-files'
import { updateMapping } from '@/db/intake/batch-rows'

/** Writes down how a batch that waits is to be read; throws Refused where that cannot be. Gives the batch as it stands then. */
export async function writeMapping(
  actor: Actor,
  trx: Knex,
  id: number,
  { kind, mapping, shaping = {} }: HowMapped,
  what: string,
): Promise<Batch> {
  const batch = await batchFor(actor, id, trx, true)
  if (batch.state !== 'mapping') throw new Refused('This file is already being brought in.')
  const made = checkedShaping(shaping, batch.header.length)
  const chosen = checked(kind, mapping, batch.header.length + (made.made?.length ?? 0), await intakeFields(trx, kind))
  const lacks = mappingLacks(kind, chosen)
  if (lacks) throw new Refused(`Before it can be ${what}: ${lacks}.`)
  const written = { kind, mapping: chosen, shaping: made }
  await updateMapping(trx, id, kind, chosen, made)
  return { ...batch, ...written }
}

/**
 * The register a file is a version of: dated on a day that has come, under the name it goes by already where only capitals or
 * blanks differ. A version replaces the one before it of that name and no other.
 */
export async function checkedRegister(
  trx: Knex,
  { name, version }: NonNullable<BatchOptions['register']>,
): Promise<NonNullable<BatchOptions['register']>> {
  const called = squeeze(String(name ?? ''))
  if (called === '' || called.length > 120) throw new Refused('Give the register a name of at most 120 letters.')
  if (!isDay(String(version))) throw new Refused('Say which date the register file is of: there is no such day.')
  const today = localDate(now().getTime(), settings().ARCH_ZONE)
  if (version > today)
    throw new Refused(
      `The register file is dated ${dateText(version)}, which has not come yet. Nothing was brought in. Give the day it was made.`,
    )
  const known: { name: string }[] = await registerNames(trx)
  return { name: known.find((k) => fold(k.name) === fold(called))?.name ?? called, version }
}

/** The rules of fields as they may be; throws Refused on any other. */
export function checkedRules(rules: unknown): FieldRules {
  const entries = Object.entries((rules ?? {}) as Record<string, unknown>)
  for (const [field, rule] of entries)
    if (!(RULED as readonly string[]).includes(field) || !(RULES as readonly unknown[]).includes(rule))
      throw new Refused(`There is no rule ${String(rule)} for ${field}.`)
  return Object.fromEntries(entries) as FieldRules
}

/** Checks a mapping against the columns of the file and the fields there are, and returns it. Refuses with what is wrong. */
export function checked(kind: BatchKind, mapping: Mapping, columns: number, customs: CustomField[]): Mapping {
  const names = new Set<string>([...FIELDS[kind].map(([field]) => field), ...customs.map(({ id }) => customKey(id))])
  if (!Array.isArray(mapping) || mapping.length !== columns) throw new Refused('The mapping does not fit the columns of the file.')
  for (const field of mapping) if (field !== null && !names.has(field)) throw new Refused(`There is no field ${String(field)}.`)
  return mapping
}

/** The same of how columns are cut, joined and reworded. */
export function checkedShaping(shaping: Shaping, columns: number): Shaping {
  try {
    const valid = SHAPING.validateSync(shaping, { strict: true, stripUnknown: false }) as Shaping
    const lacks = shapingLacks(valid, columns)
    if (lacks) throw new Refused(`The columns cannot be made so: ${lacks}.`)
    return valid
  } catch (error) {
    throw error instanceof ValidationError ? new Refused('The columns cannot be made so.') : error
  }
}

const SHAPING = object({
  made: array(
    mixed<MadeColumn>((value): value is MadeColumn => {
      const column = value as MadeColumn
      if (column?.is === 'part') return typeof column.at === 'string' && Number.isInteger(column.part) && typeof column.last === 'boolean'
      return column?.is === 'joined'
        ? Array.isArray(column.of) && typeof column.with === 'string'
        : column?.is === 'always' && typeof column.value === 'string'
    }).required(),
  ),
  words: lazy((words) =>
    words === undefined
      ? mixed().notRequired()
      : object(
          Object.fromEntries(
            Object.keys(words as object).map((column) => [
              column,
              array(tuple([string().defined(), string().defined()]).required()).required(),
            ]),
          ),
        ),
  ),
}).noUnknown()
