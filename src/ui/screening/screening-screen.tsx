'use client'

import { useViewInAddress } from '@/ui/book/view-in-address'
import { daysBetween } from '@/core/calendar/local-day'
import Link from 'next/link'
import { useEffect, useRef } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { RegisterView, SuppressionIndex } from '@/core/views/round-views'
import { useGrowing } from '@/ui/book/asking'
import { count, day } from '@/ui/book/figures'
import { LiftForm, SuppressForm } from '@/ui/directory/person-forms'
import { Spread } from '@/ui/book/spread'
import { NumberSetting } from '@/ui/forms/number-setting'
import { LiftGone, Liftings } from './lift-gone'
import type { LiftGoneAction, SuppressTarget } from './screening-actions'
import { dateText } from '@/core/text/written'
import { CHANNEL_NAME } from '@/core/records/channels'
import { isFinalReason, type Reason, REASON_NAME, REASONS, SCOPE_NAME } from '@/core/records/suppression'

/** Who must not be contacted: what stands and how to enter more on the left, each suppression on the right. */
export function ScreeningScreen({
  first,
  today,
  mayLift,
  suppress,
  suppressLines,
  lift,
  liftGone,
  takeLiftBack,
  setShare,
}: {
  setShare: (percent: number) => Promise<ActionResult<unknown>>
  liftGone: LiftGoneAction
  takeLiftBack: (lifting: number) => Promise<ActionResult<unknown>>
  first: SuppressionIndex
  today: string
  mayLift: boolean
  suppress: (target: SuppressTarget, input: unknown) => Promise<ActionResult<unknown>>
  suppressLines: (texts: string[], input: unknown) => Promise<ActionResult<unknown>>
  lift: (id: number, word: string) => Promise<ActionResult<unknown>>
}) {
  const [{ find, reason }, setView] = useViewInAddress<{ find: string; reason: Reason | 'all' }>(
    { find: '', reason: 'all' },
    ({ find: words = '', reason: of = 'all' }) => ({ find: words, reason: REASONS.find((known) => known === of) ?? 'all' }),
    'find',
  )
  const setFind = (words: string) => setView({ find: words, reason })
  const setReason = (of: Reason | 'all') => setView({ find, reason: of })
  const { pages, told, more, again } = useGrowing<SuppressionIndex>(
    (offset) => ['/api/suppressions', { find, reason: reason === 'all' ? null : reason, offset }],
    ({ rows }) => rows.length,
    { first, failed: 'The suppressions could not be shown.' },
  )
  const index = { ...(pages[pages.length - 1] ?? first), rows: pages.flatMap(({ rows }) => rows) }
  // A new first page means that something was entered or lifted.
  const drawn = useRef(first)
  useEffect(() => {
    if (drawn.current === first) return
    drawn.current = first
    void again()
  }, [first, again])
  const standing = (of: Reason) => index.counts.find((c) => c.reason === of)?.standing ?? 0
  const sum = (of: 'lifted' | 'ended' | 'toCome') => index.counts.reduce((all, c) => all + c[of], 0)
  const apart = [
    `${count(sum('ended'))} ended`,
    `${count(sum('lifted'))} lifted`,
    ...(sum('toCome') > 0 ? [`${count(sum('toCome'))} to come`] : []),
  ].join(', ')
  const total = index.counts.reduce((sum, c) => sum + c.standing, 0)
  return (
    <Spread
      width="480px"
      label={{ left: 'What stands', right: 'The suppressions' }}
      left={
        <>
          <h1>Screening</h1>
          <p className="quiet">
            Who must not be contacted, by which channels, why, since when, and who asked. What else holds people back stands in the{' '}
            <Link href="/screening/policies" className="font-semibold text-verdigris">
              policies
            </Link>
            {mayLift && (
              <>
                ; what it did and what is due in the{' '}
                <Link href="/screening/audit" className="font-semibold text-verdigris">
                  audit
                </Link>
                . They can be{' '}
                <Link href="/screening/compare" className="font-semibold text-verdigris">
                  compared
                </Link>{' '}
                with another organisation’s
              </>
            )}
            .
          </p>
          <table className="account mt-4" aria-label="Active suppressions">
            <thead>
              <tr>
                <th scope="col">Reason</th>
                <th scope="col" className="figure balance">
                  Standing
                </th>
              </tr>
            </thead>
            <tbody>
              {REASONS.filter((r) => isFinalReason(r) || standing(r) > 0).map((r) => (
                <tr key={r}>
                  <td>
                    {REASON_NAME[r].slice(0, 1).toUpperCase() + REASON_NAME[r].slice(1)}
                    {r === 'register' && index.registers.length === 0 && (
                      <span className="quiet block">no register file has been brought in</span>
                    )}
                    {r === 'register' &&
                      index.registers.map((register) => (
                        <div key={register.name}>
                          <span className="quiet block">{registerText(register, today)}</span>
                          {register.stillHeld > 0 && mayLift && <LiftGone key={register.version} register={register} liftGone={liftGone} />}
                        </div>
                      ))}
                  </td>
                  <td className="figure balance">{count(standing(r))}</td>
                </tr>
              ))}
              <tr className="total">
                <td>
                  Standing now <span className="quiet block font-normal">besides: {apart}</span>
                </td>
                <td className="figure balance">{count(total)}</td>
              </tr>
            </tbody>
          </table>
          {mayLift && index.registers.length > 0 && (
            <NumberSetting
              before="Lift without a written reason: at most"
              after="%"
              value={index.registers[0].share}
              min={0}
              max={100}
              keep={setShare}
            />
          )}
          {index.ending.length > 0 && (
            <section aria-label="Ending soon" className="mt-3">
              <h2 className="text-[15px]">Ending within a week</h2>
              <ul className="mt-1 grid gap-0.5">
                {index.ending.slice(0, 8).map((s) => (
                  <li key={s.id}>
                    {s.personId ? (
                      <Link prefetch={false} href={`/directory/people/${s.personId}`}>
                        {s.who}
                      </Link>
                    ) : (
                      s.who
                    )}
                    : {REASON_NAME[s.reason]}, ends {endsText(s.until, today)}
                  </li>
                ))}
              </ul>
              {index.ending.length > 8 && <p className="quiet">And {count(index.ending.length - 8)} more.</p>}
            </section>
          )}
          {mayLift && index.liftings.length > 0 && <Liftings liftings={index.liftings} takeLiftBack={takeLiftBack} />}
          <div className="mt-5 grid gap-3">
            <SuppressForm
              open
              channels={false}
              label="Suppress emails, phones or domains"
              suppress={(input, form) => suppressLines(String(form.get('target') ?? '').split(/\r?\n/), input)}
            >
              <label className="field">
                <span>Email, phone, or a domain such as @example.org; one a line</span>
                <textarea name="target" rows={2} required />
              </label>
              <label className="flex items-center gap-1.5">
                <input type="checkbox" name="wholeProvider" /> Also a whole mail provider, at which anybody can have an address
              </label>
            </SuppressForm>
            <SuppressForm
              channels={false}
              label="Suppress a postal address"
              suppress={(input, form) =>
                suppress(
                  {
                    postal: { street: String(form.get('street')), town: String(form.get('town')), postcode: String(form.get('postcode')) },
                  },
                  input,
                )
              }
            >
              <label className="field">
                <span>Street and number</span>
                <input name="street" required />
              </label>
              <div className="grid grid-cols-2 gap-2.5">
                <label className="field">
                  <span>Town</span>
                  <input name="town" />
                </label>
                <label className="field">
                  <span>Postcode</span>
                  <input name="postcode" />
                </label>
              </div>
            </SuppressForm>
            <p className="quiet">
              A suppression applies to anyone with that address, number or domain, now or later. To suppress a person or a whole
              organisation, open it in the <Link href="/directory">directory</Link>. Import a whole file or a do-not-call register under{' '}
              <Link href="/intake">Intake</Link>.
            </p>
          </div>
        </>
      }
      right={
        <>
          <div className="flex items-end gap-3">
            <label className="field">
              <span>Reason</span>
              <select value={reason} onChange={(event) => setReason(event.target.value as Reason | 'all')}>
                <option value="all">all</option>
                {REASONS.map((r) => (
                  <option key={r} value={r}>
                    {REASON_NAME[r]}
                  </option>
                ))}
              </select>
            </label>
            <label className="field flex-1">
              <span>Find by name, organisation, domain, town or word, or by a whole email or phone</span>
              <input type="search" value={find} onChange={(event) => setFind(event.target.value)} />
            </label>
            <a
              className="button"
              href={`/screening/suppressions?${new URLSearchParams({ find, ...(reason === 'all' ? {} : { reason }) })}`}
              download
            >
              Save as CSV
            </a>
          </div>
          {told && <p className="told mt-3">{told}</p>}
          {index.rows.length === 0 ? (
            <p className="mt-6 text-soft">{find ? 'No suppression matches what you typed.' : 'No suppressions.'}</p>
          ) : (
            <table className="people mt-1">
              <thead>
                <tr>
                  <th scope="col" className="w-[26%]">
                    Who
                  </th>
                  <th scope="col" className="w-[24%]">
                    Channels
                  </th>
                  <th scope="col">Why, since when, who asked</th>
                  <th scope="col" className="w-[84px] text-right!">
                    Applies to
                  </th>
                </tr>
              </thead>
              <tbody>
                {index.rows.map((s) => (
                  <tr key={s.id} className={s.stand === 'stands' ? '' : 'text-soft'}>
                    <td>
                      {s.personId ? (
                        <Link
                          prefetch={false}
                          href={`/directory/people/${s.personId}`}
                          className="font-semibold no-underline hover:underline"
                        >
                          {s.who}
                        </Link>
                      ) : s.organisationId ? (
                        <Link
                          prefetch={false}
                          href={`/directory/organisations/${s.organisationId}`}
                          className="font-semibold no-underline hover:underline"
                        >
                          {s.who}
                        </Link>
                      ) : (
                        s.who
                      )}
                      <span className="quiet block">{SCOPE_NAME[s.scope]}</span>
                    </td>
                    <td>
                      {s.stand === 'stands' ? (
                        <s className="text-madder">{s.channels.map((c) => CHANNEL_NAME[c]).join(', ')}</s>
                      ) : (
                        `${s.stand}: ${s.channels.map((c) => CHANNEL_NAME[c]).join(', ')}`
                      )}
                    </td>
                    <td>
                      {REASON_NAME[s.reason]} since {day(s.since)}
                      {s.until ? ` until ${day(s.until)}` : ''}
                      <span className="quiet block">
                        {s.word} · {s.by}
                        {s.batch && (
                          <>
                            {' · '}
                            <Link prefetch={false} href={`/intake/${s.batch.id}`}>
                              {s.batch.file}
                            </Link>
                          </>
                        )}
                      </span>
                      {s.evidence && <span className="quiet block">Evidence: {s.evidence}</span>}
                      {s.lifted && (
                        <span className="quiet block">
                          Lifted on {day(s.lifted.at)} by {s.lifted.by}: {s.lifted.word}
                        </span>
                      )}
                      {s.stand !== 'lifted' && mayLift && s.personId === null && s.reason !== 'register' && (
                        <LiftForm id={s.id} lift={lift} />
                      )}
                    </td>
                    <td className="figure">{count(s.catches)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {more && (
            <button type="button" className="button mt-3" onClick={more}>
              Show more of {count(index.total)}
            </button>
          )}
        </>
      }
    />
  )
}

/** When something ends, against today: on the day before it says so. */
function endsText(until: string, today: string): string {
  const left = daysBetween(today, until)
  return left <= 0 ? 'today' : left === 1 ? 'tomorrow' : `on ${dateText(until)}`
}

function registerText(register: RegisterView, today: string): string {
  const left = daysBetween(today, register.goodThrough)
  const file = `${register.name}: file of ${dateText(register.version)}`
  return left < 0
    ? `${file} is ${-left} days too old. Nobody can be called until a newer one comes in`
    : `${file}, good for ${left} more ${left === 1 ? 'day' : 'days'}${register.since ? `; since the one before it ${count(register.since.fresh)} are new and ${count(register.since.gone)} gone` : ''}`
}
