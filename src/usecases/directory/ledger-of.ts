import type { FieldWords } from '@/core/text/field-words'
import type { LedgerItem } from '@/core/views/record-views'
import { tagsMoved } from '@/core/views/tags-moved'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { sentenceCase } from '@/usecases/screening/evidence'
import { fieldWords } from './custom-fields'
import { dayText } from '@/core/text/written'
import { ledgerRows } from '@/db/directory/ledger-rows'
import { type Channel, CHANNEL_NAME, type Way } from '@/core/records/channels'
import { STOP } from '@/core/records/results'
import { type Reason, REASON_NAME } from '@/core/records/suppression'

/** The ledger of some records, the newest entries first. */
export async function ledgerOf(
  actor: Actor,
  column: 'person_id' | 'organisation_id' | 'premises_id',
  ids: number[],
): Promise<LedgerItem[]> {
  const rows = await ledgerRows(db(), column, ids, actor.id)
  const words = await fieldWords(db())
  return rows.map((e) => {
    const list = e.list ? (e.seen ? e.list : 'a private list') : null
    return {
      id: e.id,
      at: e.at.toISOString(),
      kind: e.kind,
      by: e.by ?? '',
      ...entryText({ ...e, list }, words),
    }
  })
}

/** What became of a letter to premises, by the result of its entry. */
const LETTER: Record<string, string> = {
  sent: 'Letter posted',
  returned: 'Letter came back',
  replied: 'Letter answered',
  [STOP]: 'Asked us to stop, after a letter',
}

/** One entry of the ledger in words. */
function entryText(
  e: {
    kind: string
    channel: Way | null
    result: string | null
    field: string | null
    before: string | null
    after: string | null
    note: string | null
    file_name: string | null
    round: string | null
    list: string | null
    word: string | null
    until: Date | null
    happening: string | null
    reported: string | null
  },
  words: FieldWords,
): { title: string; detail: string | null } {
  const from = e.file_name ? `with ${e.file_name}` : null
  const round = e.round ? `round ${e.round} of ${e.list}` : null
  switch (e.kind) {
    case 'created':
      return { title: 'Came into the directory', detail: from }
    case 'change':
      if (e.field === 'tags') return { title: tagsMoved(e.before, e.after), detail: from }
      return { title: sentenceCase(words.change(e.field ?? '', e.before, e.after)), detail: from }
    case 'contact':
      return {
        title: `${sentenceCase(CHANNEL_NAME[e.channel as Way])}${e.result ? ` · ${e.result}` : ''}`,
        detail: [e.note, round, from].filter(Boolean).join(' · ') || null,
      }
    case 'letter':
      return { title: LETTER[e.result ?? ''] ?? 'Letter', detail: round }
    case 'introduction':
      return { title: `Introduction ${e.result}`, detail: e.note }
    case 'note':
      return { title: 'Note', detail: e.note }
    case 'suppressed':
      if (e.note) return { title: 'Suppressed again', detail: e.note }
      return {
        title: `Suppressed: ${REASON_NAME[e.result as Reason] ?? e.result}`,
        detail: [e.word && `on the word of ${e.word}`, e.until && `until ${dayText(e.until)}`, from].filter(Boolean).join(' · ') || null,
      }
    case 'lifted':
      return { title: 'Suppression lifted', detail: e.note }
    case 'listed':
      return { title: 'Came onto the list', detail: round }
    case 'unlisted':
      return { title: 'Left the list', detail: round }
    case 'released':
      return {
        title: `Released for contact by ${(e.result ?? '')
          .split(', ')
          .map((c) => CHANNEL_NAME[c as Channel] ?? c)
          .join(', ')}`,
        detail: round,
      }
    case 'let through':
      return { title: `Let through by ${e.channel ? CHANNEL_NAME[e.channel] : ''}`, detail: [e.note, round].filter(Boolean).join(' · ') }
    case 'exported':
      return {
        title: `Saved to a file although closed: ${(e.result ?? '')
          .split(', ')
          .map((c) => CHANNEL_NAME[c as Channel] ?? c)
          .join(', ')}`,
        detail: e.note,
      }
    case 'reported':
      if (e.field !== null)
        return {
          title: `Reported: ${words.change(e.field, e.before, e.after)}`,
          detail: [e.reported, e.note].filter(Boolean).join(' · ') || null,
        }
      return { title: `Reported: ${e.happening ?? ''}`, detail: [e.note, e.after, e.reported].filter(Boolean).join(' · ') || null }
    case 'erased':
      return {
        title: 'Erased on request',
        detail: 'What was known of them is gone; a suppression of their addresses stays as keys that tell nothing.',
      }
    case 'withdrawn':
      return { title: 'Withdrawn from the directory', detail: e.note }
    case 'merged':
      return { title: `Merged: ${e.note ?? ''}`, detail: null }
    case 'parted':
      return { title: `Merge taken back: ${e.note ?? ''}`, detail: null }
    case 'reversed':
      return { title: 'An entry was reversed', detail: [e.note, round].filter(Boolean).join(' · ') || null }
    case 'not worked':
      return { title: `Not worked: ${e.channel ? CHANNEL_NAME[e.channel] : ''}`, detail: round }
    default:
      return { title: sentenceCase(e.kind), detail: e.note }
  }
}
