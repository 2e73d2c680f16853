import { type PersonRecord, SCREENED, type ScreenedChannel } from '../columns/person-record'
import { type Evidence, isFinal, type ScreeningMoment } from './kind'
import { isOff, type Rule, ruleKind } from './rules'

/** One channel of one person after screening: the address it goes to, or the rule that closed the last one and why. */
export type ChannelVerdict = { open: true; address: number } | { open: false; rule: number; evidence: Evidence }

export interface RecordVerdict {
  channels: Record<ScreenedChannel, ChannelVerdict>
  /** Index of the rule that closed the last open channel, or null when the person is clear. */
  heldBackBy: number | null
  evidence: Evidence | null
}

/** The reference screening of one record, with the evidence. Addresses are taken in the record's own order. */
export function screenRecord(record: PersonRecord, rules: Rule[], moment: ScreeningMoment): RecordVerdict {
  const channels = Object.fromEntries(SCREENED.map((c) => [c, channelVerdict(record, c, rules, moment)])) as RecordVerdict['channels']
  const closed = SCREENED.map((c) => channels[c])
  if (closed.some((v) => v.open)) return { channels, heldBackBy: null, evidence: null }
  const last = closed.reduce((a, b) => (!a.open && !b.open && b.rule > a.rule ? b : a)) as Extract<ChannelVerdict, { open: false }>
  return { channels, heldBackBy: last.rule, evidence: last.evidence }
}

function channelVerdict(record: PersonRecord, channel: ScreenedChannel, rules: Rule[], moment: ScreeningMoment): ChannelVerdict {
  const all = record.addresses.filter((a) => a.channel === channel)
  let open = all.filter((a) => a.usable)
  if (open.length === 0) return { open: false, rule: 0, evidence: { kind: 'no-address', channel, unusable: all.length > 0 } }
  const spared = moment.letThrough.some((l) => l.person === record.id && l.channel === channel)
  for (const [i, rule] of rules.entries()) {
    if (isOff(rule)) continue
    let evidence: Evidence | null = null
    open = open.filter((address) => {
      const reason = ruleKind(rule).closes(rule, record, address, moment)
      const closes = reason && (!spared || isFinal(reason)) ? reason : null
      evidence ??= closes
      return closes === null
    })
    if (open.length === 0) return { open: false, rule: i, evidence: evidence as unknown as Evidence }
  }
  return { open: true, address: open[0].id }
}
