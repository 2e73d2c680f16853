import Link from 'next/link'
import { useEffect, useRef, useState } from 'react'
import { UNFIT_REASONS, type UnfitReason, type Verdict } from '@/core/checks/patterns'
import { RELATIONS } from '@/core/records/relations'
import type { ActionResult } from '@/core/views/action-result'
import type { FitCard, FitCheckView, Touched } from '@/core/views/fit-views'
import { count, day } from '@/ui/book/figures'
import { TabRow } from '@/ui/book/tab-row'
import { REASON_TEXT, VERDICT_TEXT } from './fit-words'

export interface JudgeActions {
  judge: (check: number, person: number, verdict: unknown) => Promise<ActionResult<Touched | null>>
  unjudge: (check: number, person: number) => Promise<ActionResult<unknown>>
}

type Tab = 'see' | Verdict

/** The people of a sample, one at a time, and those who were judged. F fits, X does not, U can't tell, Z takes the last one back. */
export function FitJudging({
  check,
  second,
  may,
  actions,
  again,
}: {
  check: FitCheckView
  second: boolean
  may: boolean
  actions: JudgeActions
  again: () => Promise<unknown>
}) {
  const [tab, setTab] = useState<Tab>(may ? 'see' : 'fits')
  // Those judged a moment ago: the next one is shown before the verdict is kept.
  const [done, setDone] = useState<readonly number[]>([])
  const [why, setWhy] = useState(false)
  const [note, setNote] = useState('')
  const [relation, setRelation] = useState('')
  const [told, setTold] = useState<string | null>(null)
  const [touched, setTouched] = useState<(Touched & { name: string }) | null>(null)
  const card = may ? (check.cards.find(({ person }) => !done.includes(person)) ?? null) : null
  const say = async (of: FitCard, verdict: Verdict, reason: UnfitReason | null = null) => {
    setDone((all) => [...all, of.person])
    const sent = { verdict, reason, note: note || null, relation: reason === 'known to us' && relation !== '' ? relation : null }
    setWhy(false)
    setNote('')
    setRelation('')
    const kept = await actions.judge(check.id, of.person, sent)
    setTold(kept.ok ? null : `${of.name}: ${kept.error}`)
    setTouched(kept.ok && kept.value ? { name: of.name, ...kept.value } : null)
    if (!kept.ok) setDone((all) => all.filter((id) => id !== of.person))
    await again()
  }
  const back = async () => {
    const last = check.seen.find(({ mine }) => mine)
    if (!last) return
    const taken = await actions.unjudge(check.id, last.person)
    setTold(taken.ok ? null : taken.error)
    setDone((all) => all.filter((id) => id !== last.person))
    await again()
  }
  const keys = useRef<(event: KeyboardEvent) => void>(() => {})
  useEffect(() => {
    keys.current = (event) => {
      if (!may || event.ctrlKey || event.metaKey || event.altKey) return
      if ((event.target as HTMLElement).closest('input, textarea, select, [role="dialog"], [role="menu"]')) return
      const key = event.key.toLowerCase()
      const reason = why ? UNFIT_REASONS[Number(key) - 1] : undefined
      if (key === 'z') void back()
      else if (!card) return
      else if (reason) void say(card, 'does not', reason)
      else if (key === 'f') void say(card, 'fits')
      else if (key === 'u') void say(card, 'cannot tell')
      else if (key === 'x') setWhy(true)
      else if (key === 'escape' && why) setWhy(false)
      else return
      event.preventDefault()
      setTab('see')
    }
  })
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => keys.current(event)
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  }, [])
  const rows = check.seen.filter(({ verdict }) => tab === 'see' || verdict === tab)
  return (
    <>
      <TabRow
        label="People of the sample"
        open={tab}
        onOpen={(to) => setTab(to as Tab)}
        tabs={[
          { key: 'see', title: second ? 'To see again' : 'To see', total: second ? check.secondToSee : check.toSee },
          { key: 'fits', title: 'Fit', total: check.tally.fits },
          { key: 'does not', title: 'Don’t belong', total: check.tally['does not'] },
          { key: 'cannot tell', title: 'Can’t tell', total: check.tally['cannot tell'] },
        ]}
      />
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
      {touched && <Elsewhere of={touched} />}
      {tab === 'see' && card && (
        <article className="mt-3 rounded-lg border border-strong bg-leaf p-4" aria-label={`To judge: ${card.name}`}>
          <h2>
            <Link href={`/directory/people/${card.person}`} target="_blank" className="no-underline hover:underline">
              {card.name}
            </Link>
          </h2>
          <p className="quiet">
            {count(card.place)} of {count(check.sample)} · came with {card.came}
          </p>
          <dl className="mt-2 grid grid-cols-[130px_1fr] gap-y-1">
            {card.facts.map(({ name, value }) => (
              <div key={name} className="contents">
                <dt className="text-soft">{name}</dt>
                <dd className={value === null ? 'text-ochre' : ''}>{value ?? 'unknown'}</dd>
              </div>
            ))}
          </dl>
          <div className="mt-3 flex flex-wrap gap-2">
            <Key letter="F" main onPress={() => void say(card, 'fits')}>
              Fits
            </Key>
            <Key letter="X" pressed={why} onPress={() => setWhy(true)}>
              Doesn’t belong
            </Key>
            <Key letter="U" onPress={() => void say(card, 'cannot tell')}>
              Can’t tell
            </Key>
          </div>
          {why && (
            <fieldset className="mt-3">
              <legend className="quiet mb-1">Why not?</legend>
              <div className="flex flex-wrap gap-1.5">
                {UNFIT_REASONS.map((reason, i) => (
                  <Key key={reason} letter={String(i + 1)} onPress={() => void say(card, 'does not', reason)}>
                    {REASON_TEXT[reason]}
                  </Key>
                ))}
              </div>
              <div className="mt-2 grid grid-cols-2 gap-2">
                <label className="field">
                  <span>Note</span>
                  <input value={note} maxLength={400} onChange={(event) => setNote(event.target.value)} />
                </label>
                <label className="field">
                  <span>If known to us: set as</span>
                  <select value={relation} onChange={(event) => setRelation(event.target.value)}>
                    <option value="">leave as it is</option>
                    {RELATIONS.map((own) => (
                      <option key={own} value={own}>
                        {own}
                      </option>
                    ))}
                  </select>
                </label>
              </div>
            </fieldset>
          )}
        </article>
      )}
      {tab === 'see' && !card && (
        <p className="quiet mt-3">
          {check.ended
            ? `This check ended ${day(check.ended.at)}.`
            : !may
              ? 'Whoever may use the list looks at its people here.'
              : second
                ? 'You have seen all that your colleagues judged.'
                : 'All of the sample were seen.'}
          {check.gone > 0 ? ` ${count(check.gone)} of the sample are no longer in the directory and do not count.` : ''}
        </p>
      )}
      {check.agreement.map(({ who, both, same, kappa }) => (
        <p key={who.join(' ')} className="quiet mt-3">
          {who.join(' and ')} judged {count(both)} of the same people and agree on {count(same)}
          {kappa === null ? '' : ` (kappa ${kappa.toFixed(2)})`}.
        </p>
      ))}
      {rows.length > 0 && (
        <table className="people mt-4" aria-label="Seen before">
          <thead>
            <tr>
              <th scope="col">Seen before</th>
              <th scope="col">Verdict</th>
              <th scope="col">By</th>
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, 100).map((own) => (
              <tr key={own.person}>
                <td>
                  <Link href={`/directory/people/${own.person}`} className="font-semibold no-underline hover:underline">
                    {own.name}
                  </Link>
                  <span className="quiet block">{own.under}</span>
                </td>
                <td className={own.verdict === 'does not' ? 'text-madder' : ''}>
                  {VERDICT_TEXT[own.verdict]}
                  {own.reason ? `: ${REASON_TEXT[own.reason]}` : ''}
                  {own.note && <span className="quiet block">{own.note}</span>}
                </td>
                <td>
                  {own.mine ? 'you' : own.by}
                  {own.fromRound === null ? '' : `, from round ${own.fromRound}, ${day(own.at)}; nothing changed since`}
                  {own.otherwise.map(({ by, verdict }) => (
                    <span key={by} className="block text-ochre">
                      {by}: {VERDICT_TEXT[verdict]}
                    </span>
                  ))}
                  {may && own === check.seen.find(({ mine }) => mine) && (
                    <button type="button" className="ml-2 font-semibold text-verdigris" onClick={() => void back()}>
                      Take back <kbd>Z</kbd>
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {rows.length > 100 && <p className="quiet mt-1">The last 100 of {count(rows.length)}.</p>}
    </>
  )
}

/** A button with the key that does the same. */
function Key({
  letter,
  main = false,
  pressed,
  onPress,
  children,
}: {
  letter: string
  main?: boolean
  pressed?: boolean
  onPress: () => void
  children: React.ReactNode
}) {
  return (
    <button
      type="button"
      className={`button ${main ? 'button-main' : ''}`}
      {...(pressed === undefined ? {} : { 'aria-pressed': pressed })}
      onClick={onPress}
    >
      {children}
      <kbd className="rounded border border-current px-1.5 text-[12px] font-semibold" aria-hidden="true">
        {letter}
      </kbd>
    </button>
  )
}

/** Where somebody who is known to us stands besides this list. */
function Elsewhere({ of: { name, lists, rounds } }: { of: Touched & { name: string } }) {
  if (lists.length + rounds.length === 0) return null
  return (
    <p role="status" className="said mt-2">
      {lists.length > 0 && (
        <>
          {name} is also on{' '}
          {lists.map((own, i) => (
            <span key={own.id}>
              {i > 0 && ', '}
              <Link href={`/lists/${own.id}`} target="_blank">
                {own.name}
              </Link>
            </span>
          ))}
          .{' '}
        </>
      )}
      {rounds.length > 0 && (
        <>
          {lists.length > 0 ? 'They are' : `${name} is`} still to be contacted in{' '}
          {rounds.map((own, i) => (
            <span key={own.id}>
              {i > 0 && ', '}
              <Link href={`/rounds/${own.id}`} target="_blank">
                round {own.called} of {own.list}
              </Link>
            </span>
          ))}
          .
        </>
      )}
    </p>
  )
}
