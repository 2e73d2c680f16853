import { type InferType, object, string } from 'yup'
import type { Reason } from '../columns/person-record'
import type { RuleKind } from './kind'
import { markSuppressed, suppressionOf } from './suppressed'

const schema = object({ kind: string().oneOf(['asked-to-stop'] as const).required() }).noUnknown()
export type AskedToStopRule = InferType<typeof schema>

const COUNTED: readonly Reason[] = ['opt-out', 'complaint', 'other']

/** Every suppression of the person or of the address itself, other than those of a legal register. */
export const askedToStop: RuleKind<AskedToStopRule> = {
  name: 'Asked us to stop',
  schema,
  optional: false,
  sentence: () => [{ text: 'Asked us to stop' }],
  note: () => 'opted out, complained or held back by one of us; nobody here can let them through',
  closes: (_rule, record, address, moment) => suppressionOf(record, address, COUNTED, moment.asOf),
  mark: (_rule, columns, listed, moment, rows) => markSuppressed(columns, listed, COUNTED, moment.asOf, rows),
}
