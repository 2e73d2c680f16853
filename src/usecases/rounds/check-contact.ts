import { countryCode } from '@/core/clean/country'
import { type Channel, CHANNEL_NAME } from '@/core/records/channels'
import { aroundSince, ruleNamed } from '@/core/screening/rules'
import { screenRecord } from '@/core/screening/screen-record'
import type { ContactCheck } from '@/core/views/round-views'
import { localDate } from '@/core/calendar/local-day'
import { dateText } from '@/core/text/written'
import { db } from '@/db/connection'
import { personRecords } from '@/db/directory/person-records'
import { contactDue, madeBy } from '@/db/rounds/stopped'
import { letThroughOf, withRegister } from '@/db/screening/let-through'
import { zonesOf } from '@/runtime/phone-zones'
import { settings } from '@/runtime/settings'
import { evidenceTexts } from '@/usecases/screening/evidence'
import { momentNow, withHolidays } from '@/usecases/screening/screening-now'
import { withAround } from '@/usecases/screening/with-around'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import { roundFor } from './rounds'

/**
 * Screens one contact of a released round again, as of this moment: whether it may be made, where it goes, and why not. It goes by the
 * rules the round froze, with the register that is in now, and by the hours and quiet days where the person is. Contacts of the round
 * itself do not count, nor what came of them; its later steps wait for their day, and for whoever answered before they are not needed. Nothing
 * is written.
 */
export async function checkContact(actor: Actor, id: number, person: number, channel: Channel): Promise<ContactCheck> {
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, list.id, 'use')
  if (!round.released_at) throw new Refused('The round is not released yet. Release it before anybody is contacted.')
  if (round.closed_at) throw new Refused('The round is closed. Start the next round of the list.')
  const due = await contactDue(db(), id, person, channel)
  if (!due) throw new Refused(`This person is not contacted by ${CHANNEL_NAME[channel]} in this round.`, 'not found')
  const no = (title: string, detail: string): ContactCheck => ({ may: false, title, detail })
  const [found] = await personRecords(db(), [person])
  // Merged since: what is known of both counts, and the contact still goes to the address that was frozen.
  const [standing] = found?.mergedInto ? await personRecords(db(), [found.mergedInto]) : [found]
  if (!standing?.live) return no('Not in the directory any more', 'The record was withdrawn or erased since the release.')
  const { record } = standing
  const rules = await withRegister(round.rules)
  const moment = withHolidays(
    momentNow(
      list.zone,
      [id],
      (await letThroughOf(id)).map((own) => (own.person === person ? { ...own, person: record.id } : own)),
    ),
    rules,
  )
  if (aroundSince(rules, moment) !== null) await withAround(db(), [record], rules, moment)
  const address = record.addresses.find((own) => own.id === due.address_id)
  if (!address?.usable) return no('Address gone', 'The address or number of this round does not belong to the person any more.')
  const zones = channel === 'phone' ? await zonesOf(due.sent_to.value, address.country ?? countryCode(settings().ARCH_REGION)) : []
  const made = await madeBy(db(), id, person)
  const releasedAt = round.released_at.getTime()
  // What came of its own email, "opened" or "replied", is recorded after that is made good, and belongs to no round.
  const ofRound = (contact: (typeof record.contacts)[number]) =>
    contact.round === id || (!contact.round && contact.at >= releasedAt && made.includes(contact.channel))
  const { channels } = screenRecord(
    {
      ...record,
      // This address alone: another one they have was not screened for this round.
      addresses: record.addresses.filter((own) => own.channel !== channel || own.id === due.address_id),
      contacts: record.contacts.filter((contact) => !ofRound(contact)),
      around: record.around?.filter((contact) => contact.round !== id),
    },
    rules,
    { ...moment, now: { zones } },
  )
  const verdict = channels[channel]
  if (!verdict.open) {
    const [detail] = await evidenceTexts([verdict.evidence])
    return no(ruleNamed(rules, verdict.rule), detail)
  }
  if (due.stopped_by !== null)
    return no('Stopped since the release', 'A suppression that was lifted again stopped this contact. Put them into the next round.')
  if (due.spared)
    return no('Not needed any more', `This step is spared whoever ${due.unless === 'reached' ? 'was reached' : 'answered'} before it.`)
  if (due.due !== null && due.due > localDate(moment.asOf, list.zone))
    return no('Planned for later', `This contact is planned for ${dateText(due.due)} or later.`)
  if (due.ended_at !== null) return no('Done already', 'This contact was made or ended before.')
  return { may: true, to: due.sent_to.value }
}
