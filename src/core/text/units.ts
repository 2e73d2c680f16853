import { countText } from './written'

/**
 * Units that a quantity may be told in, by the unit it is kept in: how many of that one each is. Sources: the international yard and
 * pound agreement of 1959 (a foot is 0.3048 m, a mile 5,280 feet, an acre 43,560 square feet); a hectare is 10,000 m².
 */
export const UNITS = {
  m: { m: 1, km: 1000, ft: 0.3048, miles: 1609.344 },
  'm²': { 'm²': 1, hectares: 10_000, 'sq ft': 0.3048 ** 2, acres: 43_560 * 0.3048 ** 2 },
  months: { months: 1, years: 12 },
} as const
export type Quantity = keyof typeof UNITS
export type UnitOf<Q extends Quantity> = keyof (typeof UNITS)[Q] & string
export type Unit = { [Q in Quantity]: UnitOf<Q> }[Quantity]

/** Returns the units of a quantity, the usual one first. */
export const unitsOf = (quantity: Quantity): Unit[] => Object.keys(UNITS[quantity]) as Unit[]

const factor = (quantity: Quantity, unit: Unit): number => (UNITS[quantity] as Record<string, number>)[unit] ?? 1

/** A number of some unit in the unit it is kept in. Months are whole. */
export function inKept(quantity: Quantity, unit: Unit, told: number): number {
  const kept = told * factor(quantity, unit)
  return quantity === 'months' ? Math.round(kept) : Number(kept.toPrecision(12))
}

/** A number of the unit it is kept in, in another: what was told, when it is the unit it was told in. */
export const inUnit = (quantity: Quantity, unit: Unit, kept: number): number => Number((kept / factor(quantity, unit)).toPrecision(9))

/** A quantity in words, in the unit it was told in: 2 acres, 500 m. */
export const quantityText = (quantity: Quantity, kept: number, unit: Unit = quantity): string =>
  `${countText(inUnit(quantity, unit, kept))} ${unit}`
