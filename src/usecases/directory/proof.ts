import { datePlusDays, isDay, startOfDate } from '@/core/calendar/local-day'
import { CHANNEL_NAME, CHANNELS } from '@/core/records/channels'
import { REASON_NAME, SCOPE_NAME } from '@/core/records/suppression'
import type { Evidence } from '@/core/screening/kind'
import { isOff, ruleNamed, ruleText } from '@/core/screening/rules'
import { dateText, dayText } from '@/core/text/written'
import type { ReadablePage, Section } from '@/core/views/sections'
import { db } from '@/db/connection'
import { mergedHere, personRow } from '@/db/directory/person-rows'
import {
  contactsBetween,
  lettersBetween,
  type LetterThen,
  type SeatThen,
  seatsBetween,
  sourcesUntil,
  suppressionsAt,
} from '@/db/directory/proof-rows'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { placeText } from '@/core/text/place'
import { evidenceTexts, sentenceCase } from '@/usecases/screening/evidence'
import { type Actor, Refused } from '@/usecases/team/actor'

/**
 * Why somebody was contacted on a day, or why not, as it was known then: contacts with the line of the list, the rules they passed and
 * where each went; rounds that held them back, by which rule and on what evidence; suppressions in force; where what is known came from.
 */
export async function proofOf(actor: Actor, person: number, day: string): Promise<ReadablePage & { contacted: boolean }> {
  const row = Number.isSafeInteger(person) ? await personRow(db(), person) : undefined
  if (!row) throw new Refused('There is no such person in the directory.', 'not found')
  if (!isDay(day)) throw new Refused('Give the day.')
  const zone = settings().ARCH_ZONE
  const [from, until] = [new Date(startOfDate(day, zone)), new Date(startOfDate(datePlusDays(day, 1), zone))]
  if (from > now()) throw new Refused('This day is still to come.')
  const whole = [person, ...(await mergedHere(db(), person)).map((m: { id: number }) => m.id)]
  const contacts = await contactsBetween(db(), whole, from, until)
  const seats = await seatsBetween(db(), whole, from, until, actor.id)
  const letters = await lettersBetween(db(), whole, from, until, actor.id)
  const held = await suppressionsAt(db(), whole, new Date(until.getTime() - 1))
  const sources = await sourcesUntil(db(), whole, until)
  const made = new Set(contacts.map((contact) => contact.round))
  const sections: Section[] = [
    {
      title: contacts.length === 0 ? `Not contacted on ${dateText(day)}` : `Contacts on ${dateText(day)}`,
      lines: contacts.map((contact) => {
        const seat = seats.find((own) => own.round === contact.round) ?? letters.find((own) => own.round === contact.round)
        return [
          sentenceCase(CHANNEL_NAME[contact.channel]),
          [
            contact.by && `by ${contact.by}`,
            contact.sent_to && `to ${contact.sent_to.value}`,
            contact.result && `result: ${contact.result}`,
            seat ? `in round ${seat.called} of ${seat.list}` : 'outside any round',
            contact.file && `recorded by the file ${contact.file}`,
          ]
            .filter(Boolean)
            .join('; '),
        ]
      }),
    },
    ...(await Promise.all(seats.map((seat) => seatSection(seat, made.has(seat.round))))),
    ...letters.map(letterSection),
    {
      title: 'Suppressions in force that day',
      lines: held.map((s) => [
        sentenceCase(REASON_NAME[s.reason]),
        `${s.channels.map((c) => CHANNEL_NAME[c]).join(', ')}; ${SCOPE_NAME[s.scope]}; since ${dayText(s.since)}${s.until ? ` until ${dayText(s.until)}` : ''}; requested by ${s.word}; entered on ${dayText(s.recorded_at)} by ${s.by ?? 'somebody who left'}`,
      ]),
    },
    {
      title: 'Where what was known came from',
      lines: sources.map((s) => [
        s.source ?? s.file,
        `${s.source ? `${s.file}, ` : ''}row ${s.row_no}, brought in on ${dayText(s.at)} by ${s.by ?? 'somebody who left'}`,
      ]),
    },
  ]
  return {
    title: contacts.length > 0 ? `Why ${row.name} was contacted` : `Why ${row.name} was not contacted`,
    about: `${dateText(day)}, as it was known at the end of that day (${zone}). Made on ${dayText(now())} by ${actor.name}.`,
    sections,
    contacted: contacts.length > 0,
  }
}

/** Why a letter to premises named somebody: whose they are, or who is there, and on whose release. */
function letterSection(letter: LetterThen): Section {
  return {
    title: `Round ${letter.called} of ${letter.list}: letter ${letter.letter}`,
    lines: [
      ['Addressed to', [letter.addressee, placeText(letter)].filter(Boolean).join(', ')],
      [letter.to === 'owner' ? 'As the owner of' : 'As somebody who is at', letter.about],
      ['Released', `on ${dayText(letter.released_at)} by ${letter.released_by ?? 'somebody who left'}`],
    ],
  }
}

/** How somebody stood in a round: the line that put them on, the rules they passed, and what closed each channel. */
async function seatSection(seat: SeatThen, contacted: boolean): Promise<Section> {
  const channels = CHANNELS.flatMap((channel) => seat.channels.filter((own) => own.channel === channel))
  const texts = await evidenceTexts(channels.map((own) => own.evidence as Evidence | null))
  const passed = seat.rules.filter((rule) => !isOff(rule)).map(ruleText)
  return {
    title: `Round ${seat.called} of ${seat.list}${contacted ? '' : seat.held_by === null ? ': clear, not contacted that day' : ': held back'}`,
    lines: [
      ['On the list by', `${seat.why} (edition ${seat.edition})`],
      ['Screened', `as of ${dayText(seat.as_of)}, released by ${seat.released_by ?? 'somebody who left'} on ${dayText(seat.released_at)}`],
      ['Policy', seat.policy ? `${seat.policy}, edition ${seat.policy_edition}` : 'of the round itself'],
      ['Rules', passed.join('; ')],
      ...channels.map((own, i): [string, string] => [
        sentenceCase(CHANNEL_NAME[own.channel]),
        own.closed_by === null
          ? `clear, to ${own.sent_to?.value ?? ''}`
          : `closed by “${ruleNamed(seat.rules, own.closed_by)}”: ${texts[i]}`,
      ]),
      ...seat.through.map((own): [string, string] => [
        `Let through by ${CHANNEL_NAME[own.channel]}`,
        `${own.reason} (${own.by ?? 'somebody who left'})`,
      ]),
    ],
  }
}
