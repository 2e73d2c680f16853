import type { PeopleColumns } from '../columns/people-columns'

/** What a field of a person holds, by its number; null where it is missing. */
export const customAt = (columns: PeopleColumns, n: number, field: number): string | null => columns.custom.get(field)?.get(n) ?? null
