import { boolean, type InferType, object, string } from 'yup'
import { CLOSES, markRows, type RuleKind, recordRuleParts } from './kind'
import { CHANNELS } from '../records/channels'

const schema = object({
  ...recordRuleParts,
  kind: string()
    .oneOf(['another-round'] as const)
    .required(),
  off: boolean().default(false),
  /** Whether a contact that is to come closes every channel, or only the one it is to be made by. */
  closes: string()
    .oneOf(['every channel', 'the same channel'] as const)
    .default('every channel'),
}).noUnknown()
export type AnotherRoundRule = InferType<typeof schema>

/** To be contacted in an open round of another list: released, not closed, and the contact not made yet. */
export const anotherRound: RuleKind<AnotherRoundRule> = {
  name: 'In another open round',
  about: 'rests whom a round of another list is still to contact',
  schema,
  usual: { off: false, closes: 'every channel' },
  form: [CLOSES],
  optional: true,
  sentence: () => [{ text: 'In another open round' }],
  note: ({ closes }) =>
    `contacts by any channel that a round of another list is still to make${closes === 'every channel' ? '' : '; closes only that channel'}`,
  closes(rule, record, address, moment) {
    const toCome = record.toCome.find(
      (t) => !moment.exceptRounds.includes(t.round) && (rule.closes === 'every channel' || t.channel === address.channel),
    )
    return toCome ? { kind: 'contact-to-come', round: toCome.round, channel: toCome.channel } : null
  },
  mark(rule, columns, listed, moment, marks) {
    for (const [n, toCome] of columns.toCome) {
      if (!listed.has(n)) continue
      for (const t of toCome) {
        if (moment.exceptRounds.includes(t.round)) continue
        markRows(columns, n, marks.ours, rule.closes === 'every channel' ? undefined : (c) => c === CHANNELS.indexOf(t.channel))
      }
    }
  },
}
