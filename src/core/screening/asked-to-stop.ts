import { type InferType, object, string } from 'yup'
import { onlyId, type RuleKind } from './kind'
import { markSuppressed, suppressionOf } from './suppressed'
import { isFinalReason, type Reason, REASONS } from '../records/suppression'

const schema = object({
  id: onlyId('asked-to-stop'),
  kind: string()
    .oneOf(['asked-to-stop'] as const)
    .required(),
}).noUnknown()
export type AskedToStopRule = InferType<typeof schema>

const FINAL: readonly Reason[] = ['opt-out', 'complaint']
const OURS = REASONS.filter((reason) => !isFinalReason(reason))

/** Every suppression of the person, their organisation or the address itself, other than those of a legal register. */
export const askedToStop: RuleKind<AskedToStopRule> = {
  name: 'Asked us to stop',
  about: 'closes what somebody opted out of or complained about, and what one of us held back',
  schema,
  usual: {},
  form: [],
  optional: false,
  sentence: () => [{ text: 'Asked us to stop' }],
  note: () => 'opted out, complained or held back by one of us; an opt-out or complaint nobody can let through',
  closes: (_rule, record, address, { asOf }) => suppressionOf(record, address, FINAL, asOf) ?? suppressionOf(record, address, OURS, asOf),
  mark(_rule, columns, listed, { asOf }, marks) {
    markSuppressed(columns, listed, FINAL, asOf, marks.final)
    markSuppressed(columns, listed, OURS, asOf, marks.ours)
  },
}
