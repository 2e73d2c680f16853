import type { RecordChange } from '@/core/records/record-change'
import type { AreaShape } from '@/core/areas/shape'
import type { OrganisationRecord } from '@/core/records/organisation-record'
import type { Address, Contact, PersonRecord } from '@/core/records/person-record'
import type { PremisesRecord } from '@/core/records/premises-record'
import type { CRITERIA, CriterionName, CriterionOf } from '@/core/criteria/registry'
import { ASOF, blankPremises as noPremises, DAY } from '../../support/people'

/** What is told of one record; the rest of it is not known. */
export interface Told {
  person: Partial<PersonRecord>
  organisation: Partial<OrganisationRecord>
  premises: Partial<PremisesRecord>
}

/** One question of a kind, how a line says it, and records whose answer can be told by reading them. */
export interface Example<K extends CriterionName> {
  ask: Omit<CriterionOf<K>, 'kind'>
  line: string
  yes: Records<K>
  no: Records<K>
  /** Left out where the kind knows of everybody. */
  unknown?: Records<K>
}
export type Records<K extends CriterionName> = ((typeof CRITERIA)[K]['of'] extends keyof Told
  ? Told[(typeof CRITERIA)[K]['of']]
  : Told['person'])[]

export const roles = (...all: string[]) => all.map((role) => ({ role }))
export const says = (field: number, ...all: string[]) => all.map((value) => ({ custom: { [field]: value } }))
export const address = (of: Partial<Address>): Address => ({
  id: 1,
  channel: 'email',
  usable: true,
  failedAt: null,
  suppressions: [],
  ...of,
})
export const contact = (daysAgo: number, of: Partial<Contact> = {}): Contact => ({
  at: ASOF - daysAgo * DAY,
  channel: 'phone',
  by: 'ines',
  ...of,
})
export const change = (of: Partial<RecordChange>): RecordChange => ({
  kind: 1,
  asks: 'confirm',
  after: '2026-06-09',
  by: '2026-06-10',
  learnedAt: ASOF - DAY,
  state: 'open',
  sources: 'county wire',
  text: null,
  ...of,
})
export const changes = (...all: RecordChange[]) => ({ changes: all })
export const contacts = (...all: Contact[]) => ({ contacts: all })
export const ends = (least: number | null, most: number | null) => ({ least, most })
export const time = (least: number | null, most: number | null, from: string | null = null, to: string | null = null) => ({
  least,
  most,
  from,
  to,
})

/** A square a kilometre or so wide, west of the circle. */
export const SQUARE: AreaShape = {
  polygons: [
    [
      [
        [1.4, 55.2],
        [1.42, 55.2],
        [1.42, 55.21],
        [1.4, 55.21],
      ],
    ],
  ],
  circles: [],
  streets: [],
}
export const at = (lat: number, lon: number) => ({ at: { ...noPremises, position: { lat, lon } } })

export type Examples = { [K in CriterionName]: Example<K> }
