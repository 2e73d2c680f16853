import type { BatchKind, Mapping } from '../match/columns'
import type { CustomField } from './custom'
import { type PersonRow, personRow } from './person-row'
import { type ContactRow, contactRow } from './contact-row'
import { type SuppressionRow, suppressionRow } from './suppression-row'
import { type PremisesRow, premisesRow } from './premises-row'
import type { Refusal } from './cells'

/** Cleans a row of any kind of batch. */
export function cleanRow(
  kind: BatchKind,
  row: string[],
  mapping: Mapping,
  region: string,
  customs: readonly CustomField[] = [],
): PersonRow | ContactRow | SuppressionRow | PremisesRow | Refusal {
  if (kind === 'premises') return premisesRow(row, mapping, customs)
  return kind === 'people'
    ? personRow(row, mapping, region, customs)
    : kind === 'contacts'
      ? contactRow(row, mapping, region)
      : suppressionRow(row, mapping, region)
}
