import type { Evidence } from '@/core/screening/kind'
import { countryName } from '@/core/clean/country'
import { db } from '@/db/connection'
import { countText, dateText, dayText } from '@/core/text/written'
import { failedAddresses } from '@/db/directory/address-rows'
import { personNames } from '@/db/directory/person-rows'
import { roundsWithList } from '@/db/rounds/round-rows'
import { suppressionsForEvidence } from '@/db/screening/suppression-rows'
import { namesOfAll } from '@/db/team/colleagues'
import { ADDRESS_NAME, CHANNEL_NAME } from '@/core/records/channels'
import { REASON_NAME } from '@/core/records/suppression'

/** Evidence in words: what, when, on whose word. Looks up in one go what several pieces of evidence refer to. */
export async function evidenceTexts(evidence: (Evidence | null)[]): Promise<string[]> {
  const all = evidence.filter((e): e is Evidence => e !== null)
  const suppressionIds = all.flatMap((e) => (e.kind === 'suppression' ? [e.suppression] : []))
  const suppressions = new Map((await suppressionsForEvidence(db(), suppressionIds)).map((s) => [s.id, s]))
  const roundIds = all.flatMap((e) => (e.kind === 'contact-to-come' ? [e.round] : []))
  const rounds = new Map((await roundsWithList(db(), roundIds)).map((r) => [r.id, r]))
  const actorIds = all.flatMap((e) => (e.kind === 'contact' ? [e.by] : []))
  const actors = new Map((await namesOfAll(db(), actorIds)).map((u) => [u.id, u.name]))
  const behind = all.flatMap((e) =>
    e.kind === 'waits' ? e.behind : e.kind === 'shares' ? [e.with] : e.kind === 'contact' && e.of !== undefined ? [e.of] : [],
  )
  const people = new Map((await personNames(db(), behind)).map((p) => [p.id, p.name]))
  const failedIds = all.flatMap((e) => (e.kind === 'failed' ? [e.address] : []))
  const failures = new Map((await failedAddresses(db(), failedIds)).map((f) => [f.id, f]))
  return evidence.map((e) => {
    if (e === null) return ''
    switch (e.kind) {
      case 'no-address':
        return e.unusable ? 'every address or number we have is unusable' : 'no address or number at all'
      case 'suppression': {
        const s = suppressions.get(e.suppression)
        if (!s) return 'a suppression'
        const shared =
          e.of === 'address' && s.scope === 'person' && s.name
            ? `; the address is shared with ${s.name}`
            : s.scope === 'domain' || s.scope === 'organisation'
              ? `; everybody at ${s.hint}`
              : s.scope === 'post'
                ? '; everybody at this address'
                : ''
        return `${sentenceCase(REASON_NAME[s.reason as keyof typeof REASON_NAME])} since ${dayText(s.since)}${s.until ? ` until ${dayText(s.until)}` : ''} · ${s.word}${shared}`
      }
      case 'register-out-of-date':
        return `The register file of ${dateText(e.version)} is too old to call by`
      case 'relation':
        return e.relation === null ? 'Relation to us: not known' : `Relation to us: ${e.relation}`
      case 'contact':
        return `${sentenceCase(CHANNEL_NAME[e.channel])}${e.of === undefined ? '' : ` to ${people.get(e.of) ?? 'somebody with them'}`} on ${dayText(new Date(e.at))} by ${actors.get(e.by) ?? 'somebody who left'}`
      case 'failed': {
        const f = failures.get(e.address)
        if (e.soft) return `${e.soft} soft bounces, the last on ${dayText(new Date(e.at))}${f ? `: ${f.value}` : ''}`
        return `${sentenceCase(f?.result ?? 'failed')} on ${dayText(new Date(e.at))}${f ? `: ${f.value}` : ''}`
      }
      case 'quality': {
        const said =
          e.state === null || e.state === 'not tried' || e.state === 'unchecked' ? 'Never checked or reached' : sentenceCase(e.state)
        return e.checkedAt === null ? said : `${said}, checked on ${dayText(new Date(e.checkedAt))}${e.known ? '' : ': too long ago'}`
      }
      case 'unanswered':
        return `${e.count} ${e.count === 1 ? 'contact' : 'contacts'} without an answer, ${dayText(new Date(e.first))} to ${dayText(new Date(e.last))}`
      case 'waits': {
        const names = e.behind.map((id) => people.get(id)).filter(Boolean)
        return `${e.most} of their ${e.of ?? 'organisation'} ${e.most === 1 ? 'comes' : 'come'} before them${names.length > 0 ? `: ${names.join(', ')}` : ''}`
      }
      case 'allowance':
        return e.left === 0
          ? `All ${countText(e.most)} message requests of ${e.days} days are used`
          : `Others come first: ${countText(e.left)} of ${countText(e.most)} message requests in ${e.days} days are left`
      case 'off-limits':
        return `Off limits to us: ${e.by} may approach them`
      case 'basis':
        return e.basis === null ? 'No legal basis is recorded' : `Legal basis: ${e.basis}${e.until ? `, until ${dateText(e.until)}` : ''}`
      case 'quiet-day':
        return `${e.day}${e.country ? ` in ${countryName(e.country)}` : ''}`
      case 'hours':
        return e.zone === null
          ? `It is not known what time it is where they are; calls are allowed from ${e.from} to ${e.until}`
          : `It is ${e.clock} where they are (${e.zone}); calls are allowed from ${e.from} to ${e.until}`
      case 'planned':
        return e.by === null ? PLANNED[e.because ?? 'none'] : `Contacted by ${CHANNEL_NAME[e.by]} instead`
      case 'shares':
        return `${people.get(e.with) ?? 'Somebody'} is contacted at the same ${ADDRESS_NAME[e.channel]}`
      case 'contact-to-come': {
        const round = rounds.get(e.round)
        return `To be contacted by ${CHANNEL_NAME[e.channel]} in round ${round?.called ?? ''} of ${round?.shared ? round.name : 'a private list'}`
      }
    }
  })
}

/** Why the plan of a round has nothing for somebody. */
const PLANNED = {
  wanted: 'The plan has as many people as are wanted',
  budget: 'The budget is used up',
  limits: 'No contacts are left in the weeks and limits of the plan',
  none: 'The plan uses none of their channels',
}

/** Returns a text that begins with a capital. */
export const sentenceCase = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1)
