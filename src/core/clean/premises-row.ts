import type { Mapping } from '../match/columns'
import { cleanCustom, type CustomField, customKey, type CustomValues } from './custom'
import { fold } from './fold'
import { squeeze } from './name'
import { cleanOwnerKind, cleanPosition, cleanWhole, type OwnerKind, type Position } from './premises'
import { cleanPostal, type PostalParts, postalKey } from './postal'
import { type Refusal, badCell, cellsOf, text } from './cells'

/** A row of premises as it will be stored. */
export interface PremisesRow {
  outsideId: string | null
  name: string
  /** Whether the name is its own, and not only that of the street. */
  named: boolean
  kind: string | null
  postal: PostalParts
  county: string | null
  position: Position | null
  roofArea: number | null
  yearBuilt: number | null
  owner: string | null
  ownerKind: OwnerKind | null
  /** Fields by number. */
  details: CustomValues
  /** What somebody should look at, in words. */
  doubts: string[]
}

/** Why premises that nobody could find are refused. */
export const NOWHERE = 'it says neither a whole address nor where it lies'

/** Cleans a row of premises, or says why it is refused. */
export function premisesRow(row: string[], mapping: Mapping, fields: readonly CustomField[] = []): PremisesRow | Refusal {
  const cells = cellsOf(row, mapping)
  if (row.every((cell) => cell.trim() === '')) return { refused: 'the row is empty' }
  const long = badCell('premises', cells)
  if (long) return long
  const doubts: string[] = []
  const orDoubt = <T>(value: T | undefined, cell: string | undefined, what: string): T | null => {
    if (value === undefined) doubts.push(`“${squeeze(cell ?? '')}” is ${what} and was left out`)
    return value ?? null
  }
  const found = cleanPosition(cells.latitude ?? '', cells.longitude ?? '')
  if (found && 'wrong' in found) doubts.push(`${found.wrong}; the position was left out`)
  const position = found && !('wrong' in found) ? found : null
  const postal = cleanPostal(cells)
  // An outside id may be that of premises we know.
  if (!postalKey(postal) && !position && !text(cells.outsideId)) return { refused: [NOWHERE, ...doubts].join('; ') }
  const name = text(cells.name)
  return {
    outsideId: text(cells.outsideId),
    name: name ?? postal.street ?? 'Without a name',
    named: name !== null && fold(name) !== fold(postal.street ?? ''),
    kind: text(cells.kind),
    postal,
    county: text(cells.county),
    position,
    roofArea: orDoubt(cleanWhole(cells.roofArea ?? '', 10_000_000), cells.roofArea, 'no area in square metres'),
    yearBuilt: orDoubt(cleanWhole(cells.yearBuilt ?? '', 2200), cells.yearBuilt, 'no year'),
    owner: text(cells.owner),
    ownerKind: orDoubt(cleanOwnerKind(cells.ownerKind ?? ''), cells.ownerKind, 'no kind of owner we know'),
    details: Object.fromEntries(
      fields.flatMap((field) => {
        const cell = cells[customKey(field.id)]
        const value = cell === undefined ? null : orDoubt(cleanCustom(field, cell), cell, `no value of ${field.name}`)
        return value === null ? [] : [[field.id, value]]
      }),
    ),
    doubts,
  }
}
