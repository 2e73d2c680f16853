import { CHANNEL_NAME } from '@/core/records/channels'
import { REASON_NAME } from '@/core/records/suppression'
import { fieldText } from '@/core/text/field-text'
import { dayText } from '@/core/text/written'
import type { ReadablePage } from '@/core/views/sections'
import { readableHtml } from '@/formats/readable-html'
import { sentenceCase } from '@/usecases/screening/evidence'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate } from '@/usecases/team/actor'
import { openPerson } from './open-person'
import { proofOf } from './proof'

/** What the team knows about one person, as a file they can be given: JSON for machines, or a page to be read. */
export async function personFile(actor: Actor, id: number, as: 'json' | 'html'): Promise<{ name: string; bytes: Buffer }> {
  mustCoordinate(actor, 'Making a file of what is known of a person')
  const page = await openPerson(actor, id)
  const at = now()
  if (as === 'json') {
    const { view, state, relation, tags, custom, outsideId, postal, addresses, suppressions, lists, ledger, came } = page
    const known = {
      made: at.toISOString(),
      person: {
        number: view.id,
        name: view.name,
        role: view.role,
        organisation: view.organisation,
        state,
        relation,
        tags,
        outsideId,
        postalAddress: postal,
        fields: Object.fromEntries(custom.flatMap(({ field, value }) => (value === null ? [] : [[field.name, value]]))),
      },
      addresses: addresses.map(({ channel, value, usable, suppressed }) => ({ channel, value, usable, suppressed })),
      suppressions: suppressions.map(({ reason, channels, since, until, word, stand, lifted }) => ({
        reason,
        channels,
        since,
        until,
        requestedBy: word,
        stands: stand,
        lifted,
      })),
      rounds: lists.map(({ list, round, heldBack }) => ({ list, round, heldBack })),
      ledger: ledger.map(({ at: when, title, detail, by }) => ({ at: when, what: title, detail, by })),
      sources: came.map(({ file, at: when, row, cells }) => ({ file, at: when, row, cells })),
    }
    return { name: `person-${id}.json`, bytes: Buffer.from(`${JSON.stringify(known, null, 2)}\n`) }
  }
  return { name: `person-${id}.html`, bytes: readableHtml(readable(actor, page, at)) }
}

function readable(actor: Actor, page: Awaited<ReturnType<typeof openPerson>>, at: Date): ReadablePage {
  const { view } = page
  const fact = (label: string, value: string | null): [string, string][] => (value ? [[label, value]] : [])
  return {
    title: `What is known of ${view.name}`,
    about: `Made on ${dayText(at)} by ${actor.name}.`,
    sections: [
      {
        title: 'The person',
        lines: [
          ...fact('Role', view.role),
          ...fact('Organisation', view.organisation),
          ...fact('Relation to us', page.relation),
          ...fact('Postal address', page.postal),
          ...fact('Tags', page.tags.join(', ')),
          ...fact('Outside id', page.outsideId),
          ...page.custom.flatMap(({ field, value }) => fact(field.name, value === null ? null : fieldText(field, value))),
        ],
      },
      {
        title: 'Addresses and numbers',
        lines: page.addresses.map((a): [string, string] => [sentenceCase(CHANNEL_NAME[a.channel]), a.value]),
      },
      {
        title: 'Suppressions',
        lines: page.suppressions.map((s): [string, string] => [
          sentenceCase(REASON_NAME[s.reason]),
          `${s.channels.map((c) => CHANNEL_NAME[c]).join(', ')}; since ${dayText(new Date(s.since))}; ${s.word}; ${s.stand}`,
        ]),
      },
      { title: 'Rounds', lines: page.lists.map((l) => `Round ${l.round} of ${l.list}${l.heldBack ? ', held back' : ''}`) },
      {
        title: 'What happened',
        lines: page.ledger.map((e): [string, string] => [dayText(new Date(e.at)), [e.title, e.detail, e.by].filter(Boolean).join('; ')]),
      },
      {
        title: 'Where it came from',
        lines: page.came.map((c): [string, string] => [
          `${c.file}, row ${c.row}`,
          c.cells.map(({ title, cell }) => `${title}: ${cell}`).join('; '),
        ]),
      },
    ],
  }
}

/** Why somebody was contacted on a day, or why not, as a page that can be sent to them. */
export async function proofFile(actor: Actor, id: number, day: string): Promise<{ name: string; bytes: Buffer }> {
  mustCoordinate(actor, 'Making a file for a person')
  return { name: `person-${id}-${day}.html`, bytes: readableHtml(await proofOf(actor, id, day)) }
}
