import { COUNTRY_CODES } from '../clean/country'

const PLACES = new Map(COUNTRY_CODES.map((code, i) => [code, i + 1]))

/** The place of a country in columns, from 1 on; 0 where it is not known. There are fewer than 256. */
export const countryPlace = (code: string | null | undefined): number => (code ? (PLACES.get(code) ?? 0) : 0)
/** Returns the code of a country by its place in the columns; null where none is known. */
export const countryOfPlace = (place: number): string | null => COUNTRY_CODES[place - 1] ?? null
