import { type InferType, object, string } from 'yup'
import { Bitset } from '../columns/bitset'
import { type CriterionKind, namesNothing, steady } from './kind'
import { ADDRESS_NAME, CHANNELS } from '../records/channels'

const schema = object({
  kind: string()
    .oneOf(['reach'] as const)
    .required(),
  channel: string().oneOf(CHANNELS).required(),
}).noUnknown()
export type ReachCriterion = InferType<typeof schema>

/** Has a usable email, phone, postal address, or profile link or handle. To have none is known, so this never answers unknown. */
export const reach: CriterionKind<ReachCriterion> = {
  name: 'Has a usable address or number',
  synonyms: [
    'has email',
    'has phone',
    'has address',
    'email',
    'mobile',
    'contactable',
    'deliverable',
    'contact data',
    'direct message',
    'profile link',
    'handle',
  ],
  inName: { before: 'with', after: '' },
  single: false,
  probe: null,
  named: namesNothing,
  of: 'person',
  group: 'reach',
  schema,
  blank: { kind: 'reach', channel: 'email' },
  sentence: ({ channel }) => [{ text: 'has a usable' }, { chip: ADDRESS_NAME[channel], field: 'channel' }],
  asks: ({ channel }) => [channel],
  varies: steady,
  verdict: ({ channel }, record) => (record.addresses.some((a) => a.channel === channel && a.usable) ? 'yes' : 'no'),
  evaluate: ({ channel }, columns) => ({ yes: columns.usable[channel].and(columns.live), unknown: new Bitset(columns.size) }),
}
