'use client'

import { MakeList } from '@/ui/book/make-list'
import { fieldText } from '@/core/text/field-text'
import Link from 'next/link'
import type { ReactNode } from 'react'
import type { PersonPage } from '@/core/views/record-views'
import { OnListInHand } from './on-list-in-hand'
import { count, day } from '@/ui/book/figures'
import { Reach } from '@/ui/tables/reach'
import { Ledger } from './ledger'
import { AsItCame } from '@/ui/intake/as-it-came'
import { MergeForm } from './merge-form'
import { ContactForm, LiftForm, NoteForm, OwnFieldsForm, type PersonActions, SuppressForm } from './person-forms'
import { PersonRights } from './person-rights'
import { TakeBack } from './take-back-merge'
import { Spread } from '@/ui/book/spread'
import { YearStrip } from '@/ui/tables/year-strip'
import { CHANNEL_NAME } from '@/core/records/channels'
import { REASON_NAME, SCOPE_NAME } from '@/core/records/suppression'

/** One person: what is known and what can be done on the left, their ledger on the right. */
export function PersonScreen({
  person,
  mayLift,
  actions,
  changes,
}: {
  person: PersonPage
  mayLift: boolean
  actions: PersonActions
  changes: ReactNode
}) {
  const { view } = person
  return (
    <Spread
      label={{ left: 'The person', right: 'The ledger' }}
      left={
        <>
          <div className="flex items-start justify-between gap-3">
            <h1 className="min-w-0 break-words">{view.name}</h1>
            {person.state === 'live' && (
              <span className="flex shrink-0 gap-1.5">
                <OnListInHand of="person" ids={[view.id]} />
                <MakeList these={{ of: 'person', ids: [view.id] }} alike>
                  More like this one
                </MakeList>
              </span>
            )}
          </div>
          {person.mergedInto && (
            <p role="status" className="told my-2">
              Merged into{' '}
              <Link prefetch={false} href={`/directory/people/${person.mergedInto.id}`} className="font-semibold">
                {person.mergedInto.name}
              </Link>
              , whose ledger goes on.
              {mayLift && <TakeBack merged={view.id} takeBack={actions.takeBack} />}
            </p>
          )}
          {person.state === 'withdrawn' && <p className="told my-2">Withdrawn from the directory. The ledger stays.</p>}
          <p className="text-soft">
            {view.role ?? 'no role'}
            {view.organisation && (
              <>
                {', '}
                <Link prefetch={false} href={`/directory/organisations/${view.organisationId}`} className="text-ink">
                  {view.organisation}
                </Link>
              </>
            )}
          </p>
          <div className="mt-2 flex items-center gap-5">
            <Reach reach={view.reach} />
            <YearStrip strip={view.strip} width={180} />
          </div>
          <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
            {person.addresses.map((a) => (
              <div key={a.id} className="contents">
                <dt className="text-soft first-letter:uppercase">{CHANNEL_NAME[a.channel]}</dt>
                <dd className="break-words">
                  {a.suppressed ? <s className="text-madder">{a.value}</s> : a.value}
                  {!a.usable && <span className="quiet"> unusable: {a.why}</span>}
                  {a.state && (
                    <span
                      className={`quiet ${a.state.is === 'bad' || a.state.is === 'wrong' || a.state.is === 'out of service' ? 'text-madder!' : a.state.is === 'uncertain' || a.state.old ? 'text-ochre!' : ''}`}
                      title={a.state.why ?? undefined}
                    >
                      {' '}
                      {a.state.is}
                      {a.state.at && `, ${day(a.state.at)}`}
                      {a.state.old && ', too long ago to count'}
                    </span>
                  )}
                  {a.state && a.state.shared > 0 && (
                    <span className="quiet">
                      {' '}
                      the organisation’s, {a.state.shared === 1 ? 'one other has' : `${count(a.state.shared)} others have`} it
                    </span>
                  )}
                  {a.about && <span className="quiet"> {a.about}</span>}
                  {a.suppressed && <span className="quiet"> suppressed: {a.suppressed}</span>}
                </dd>
              </div>
            ))}
            <dt className="text-soft first-letter:uppercase">relation to us</dt>
            <dd>{person.relation ?? 'unknown'}</dd>
            {person.tags.length > 0 && (
              <>
                <dt className="text-soft first-letter:uppercase">tags</dt>
                <dd>{person.tags.join(', ')}</dd>
              </>
            )}
            {person.custom.map(
              ({ field, value }) =>
                value !== null && (
                  <div key={field.id} className="contents">
                    <dt className="text-soft first-letter:uppercase">{field.name}</dt>
                    <dd className="break-words">{fieldText(field, value)}</dd>
                  </div>
                ),
            )}
            {person.outsideId && (
              <>
                <dt className="text-soft first-letter:uppercase">outside id</dt>
                <dd>{person.outsideId}</dd>
              </>
            )}
          </dl>
          {person.mergedHere.length > 0 && (
            <p className="quiet mt-3">
              Took in{' '}
              {person.mergedHere.map((m, i) => (
                <span key={m.id}>
                  {i > 0 && ', '}
                  <Link prefetch={false} href={`/directory/people/${m.id}`}>
                    {m.name}
                  </Link>
                </span>
              ))}
            </p>
          )}
          {person.came.length > 0 && <AsItCame came={person.came} />}
          <Suppressions person={person} mayLift={mayLift} lift={actions.lift} />
          {person.state === 'erased' && (
            <p className="told my-2">
              Erased on request. A suppression of their addresses stays as keys that tell nothing. Backups made before hold them until they
              are deleted.
            </p>
          )}
          {person.state !== 'erased' && (
            <PersonRights
              person={view.id}
              name={view.name}
              mayFile={mayLift}
              erase={person.state === 'merged' ? null : (actions.erase ?? null)}
            />
          )}
          {person.state === 'live' && (
            <div className="mt-5 grid gap-4">
              <ContactForm person={view.id} contact={actions.contact} maySucceed={mayLift} />
              <NoteForm person={view.id} note={actions.note} />
              {person.custom.length > 0 && <OwnFieldsForm person={view.id} custom={person.custom} setField={actions.setField} />}
              <SuppressForm
                label="Suppress this person"
                suppress={(input, form) =>
                  actions.suppressPerson(view.id, { ...(input as object), household: form.get('household') === 'on' })
                }
              >
                {view.organisationId === null && person.postal && (
                  <label className="flex items-center gap-1.5">
                    <input type="checkbox" name="household" /> The whole household: everybody at {person.postal}, now and later
                  </label>
                )}
              </SuppressForm>
              {mayLift && <MergeForm keep={view.id} name={view.name} merge={actions.merge} />}
            </div>
          )}
        </>
      }
      right={
        <>
          {changes}
          <h2>Ledger</h2>
          {person.lists.length > 0 && (
            <p className="quiet">
              In {count(person.lists.length)} {person.lists.length === 1 ? 'round' : 'rounds'}:{' '}
              {person.lists.map((l, i) => (
                <span key={l.roundId}>
                  {i > 0 && ', '}
                  <Link prefetch={false} href={`/rounds/${l.roundId}`}>
                    round {l.round} of {l.list}
                  </Link>
                  {l.heldBack && ' (held back)'}
                </span>
              ))}
            </p>
          )}
          <Ledger items={person.ledger} />
        </>
      }
    />
  )
}

function Suppressions({ person, mayLift, lift }: { person: PersonPage; mayLift: boolean; lift: PersonActions['lift'] }) {
  if (person.suppressions.length === 0) return null
  return (
    <section className="mt-5" aria-label="Suppressions">
      <h2>Suppressions</h2>
      <ul className="mt-1">
        {person.suppressions.map((s) => (
          <li key={s.id} className="border-b border-rule py-1.5">
            <span className={s.stand === 'lifted' ? 'text-soft line-through' : s.stand === 'stands' ? 'text-madder' : 'text-soft'}>
              {s.stand === 'ended' && 'Ended: '}
              {s.stand === 'to come' && 'To come: '}
              {REASON_NAME[s.reason]}, {s.channels.map((c) => CHANNEL_NAME[c]).join(', ')}
              {s.scope !== 'person' && ` (by ${SCOPE_NAME[s.scope]} ${s.who})`}
            </span>
            <span className="quiet block">
              since {day(s.since)}
              {s.until ? ` until ${day(s.until)}` : ''} · {s.word} · entered by {s.by}
            </span>
            {s.lifted ? (
              <span className="quiet block">
                lifted {day(s.lifted.at)} by {s.lifted.by}: {s.lifted.word}
              </span>
            ) : (
              mayLift && <LiftForm id={s.id} lift={lift} />
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** A form that folds out, sends, says what happened and empties itself once it worked. */
