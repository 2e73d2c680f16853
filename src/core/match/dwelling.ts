/** A unit at the head of a street in its comparable form, as comparableStreet writes it. */
const UNIT = /^((?:flat|unit|suite|room|floor) [a-z0-9]+) /

/** The flat or other unit of a street in its comparable form; empty where it names none. */
export const unitOf = (street: string): string => UNIT.exec(street)?.[1] ?? ''

/** The numbers of a street in its comparable form in their order, and the street without its unit. */
export function numbersOf(street: string): { numbers: string; rest: string } {
  const rest = street.replace(UNIT, '')
  return { numbers: (rest.match(/\d+[a-z]?(?![a-z])/g) ?? []).join(' '), rest }
}
