import { array, boolean, type InferType, object, string } from 'yup'
import { localDate } from '../calendar/local-day'
import { BASES, FIELD } from '../clean/standard-fields'
import { customAt } from './custom-at'
import { type Evidence, markRows, recordRuleParts, type RuleKind } from './kind'

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['legal-basis'] as const)
    .required(),
  off: boolean().default(false),
  /** The bases that are good enough. */
  accepted: array(string().oneOf(BASES).required()).min(1, 'choose at least one basis').required(),
  /** What becomes of somebody of whom no basis is recorded. */
  unknown: string()
    .oneOf(['is held back', 'stays'] as const)
    .required(),
}).noUnknown()
export type LegalBasisRule = InferType<typeof schema>

/** Why somebody with a basis until a day is closed on another; null where they are not. */
function closedFor(rule: LegalBasisRule, basis: string | null, until: string | null, today: string): Evidence | null {
  if (basis === null) return rule.unknown === 'is held back' ? { kind: 'basis', basis, until: null } : null
  const good = (rule.accepted as readonly string[]).includes(basis) && (until === null || today <= until)
  return good ? null : { kind: 'basis', basis, until }
}

/** No legal basis that is accepted, or one that has expired: the last day it holds is inclusive. A legal rule, so an unknown basis holds back. */
export const legalBasis: RuleKind<LegalBasisRule> = {
  name: 'Legal basis',
  about: 'closes people of whom no legal basis for contacting them is recorded, or whose basis has expired',
  schema,
  usual: { off: false, accepted: ['consent', 'legitimate interests', 'contract'], unknown: 'is held back' },
  form: [
    { key: 'accepted', label: 'Bases that are accepted', is: 'some', of: BASES.map((own) => [own, own]) },
    {
      key: 'unknown',
      label: 'Somebody without a recorded basis',
      is: 'one',
      of: [
        ['is held back', 'is held back'],
        ['stays', 'stays'],
      ],
    },
  ],
  optional: true,
  sentence: ({ accepted }) => [{ text: 'No legal basis among' }, { chip: accepted.join(', '), field: 'accepted' }],
  note: ({ unknown }) => `or one that has expired; somebody without a recorded basis ${unknown}`,
  closes: (rule, record, _address, { asOf, zone }) =>
    closedFor(rule, record.custom[FIELD.basis] ?? null, record.custom[FIELD.basisUntil] ?? null, localDate(asOf, zone)),
  mark(rule, columns, listed, { asOf, zone }, { ours }) {
    const today = localDate(asOf, zone)
    listed.forEach((n) => {
      if (closedFor(rule, customAt(columns, n, FIELD.basis), customAt(columns, n, FIELD.basisUntil), today)) markRows(columns, n, ours)
    })
  },
}
