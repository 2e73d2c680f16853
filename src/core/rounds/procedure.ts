import { CHANNEL_NAME, CHANNEL_TITLE, CHANNELS, type Channel } from '../records/channels'
import { countText, moneyText } from '../text/written'
import { FILE_FORMATS, type FileLayout } from './file-layout'

/** What was done in a round once it was out, and by whom. */
export type Done =
  | { is: 'shared'; channel: Channel; among: string[]; by: string }
  | { is: 'sent'; subject: string; by: string }
  | { is: 'taken'; channel: Channel; layout: FileLayout | null; by: string }

/** A step of a round as its next one repeats it. */
export interface ProcedureStep {
  text: string
  /** Who did it in the round before. */
  by: string[]
  done: boolean
}

/** Tells apart what is done in a round; a file of the same channel in another format is another step. */
const keyOf = (done: Done): string =>
  done.is === 'sent' ? 'sent' : done.is === 'shared' ? `shared ${done.channel}` : `taken ${done.channel} ${done.layout?.format ?? ''}`

const textOf = (done: Done): string => {
  if (done.is === 'sent') return `Send the email “${done.subject}”`
  if (done.is === 'shared') return `Share out the contacts by ${CHANNEL_NAME[done.channel]} among ${done.among.join(', ')}`
  const { layout } = done
  if (!layout) return `Download the ${CHANNEL_NAME[done.channel]} file`
  const columns = layout.columns.map(({ heading }) => heading)
  return `Download the ${CHANNEL_NAME[done.channel]} file as ${FILE_FORMATS[layout.format].title.split(',')[0]}: ${columns.slice(0, 4).join(', ')}${columns.length > 4 ? ` and ${columns.length - 4} more` : ''}`
}

/** What the round before did, each once and the latest way, in the order in which it was first done; with what of it this round has done. */
export function procedureOf(before: readonly Done[], now: readonly Done[]): ProcedureStep[] {
  const done = new Set(now.map(keyOf))
  const steps = new Map<string, ProcedureStep>()
  for (const own of before) {
    const key = keyOf(own)
    const known = steps.get(key)
    steps.set(key, { text: textOf(own), by: [...new Set([...(known?.by ?? []), own.by])], done: done.has(key) })
  }
  return [...steps.values()]
}

/** So many times as many, or as few, are told (our own figure, no source), where it is this many people at least. */
const TIMES = 2
const LEAST = 10

/**
 * By which channels twice as many are clear as in the round before, or half as many, in words.
 * @example countsDiffering({ email: 900, phone: 0, post: 5, direct: 0 }, { email: 400, phone: 0, post: 2, direct: 0 }, 2)
 * // ['Email: 900 people, 400 in round 2']
 */
export function countsDiffering(now: Record<Channel, number>, before: Record<Channel, number>, number: number): string[] {
  return CHANNELS.flatMap((channel) => {
    const [a, b] = [now[channel], before[channel]]
    const differs = Math.abs(a - b) >= LEAST && (a >= b * TIMES || b >= a * TIMES)
    return differs
      ? [`${CHANNEL_TITLE[channel]}: ${countText(a)} ${a === 1 ? 'person' : 'people'}, ${countText(b)} in round ${number}`]
      : []
  })
}

/** What the cost of a round differs by from that of the round before, in minor units; nothing where either has no costs, or they are equal. */
export const costDiffering = (now: number | null, before: number | null, number: number): string[] =>
  now === null || before === null || now === before
    ? []
    : [`The cost: ${moneyText(now / 100)}, ${moneyText(before / 100)} in round ${number}`]
