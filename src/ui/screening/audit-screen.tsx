'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useTransition } from 'react'
import { toast } from 'sonner'
import { CHANNEL_NAME, type Channel } from '@/core/records/channels'
import { REASON_NAME } from '@/core/records/suppression'
import { dateText } from '@/core/text/written'
import type { ActionResult } from '@/core/views/action-result'
import type { Audit } from '@/core/views/audit-views'
import { count, day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { useViewInAddress } from '@/ui/book/view-in-address'

const CHECKS = ['breaches', 'toCarry', 'registers', 'ending', 'rules', 'through'] as const
type Check = (typeof CHECKS)[number]
const TITLE: Record<Check, string> = {
  breaches: 'Contacts made in breach',
  toCarry: 'Opt-outs to carry where a file went',
  registers: 'Do-not-call registers',
  ending: 'Suppressions ending within a week',
  rules: 'Rules that stand out',
  through: 'Let through',
}
const ABOUT: Record<Check, string> = {
  breaches:
    'Contacts against a suppression that was known before they were made: the ledger is read again against what was known on each day. There must be none.',
  toCarry:
    'People who opted out after somebody downloaded a file with them in it. Whoever has the file must be told by the day the law gives; here, they are held back already.',
  registers: 'The version in use of each register, its age, and the last day on which it may be used.',
  ending: 'Suppressions that end by themselves. After that day these people can be contacted again.',
  rules: 'Rules that held back nobody in three rounds or more, or nearly everybody in each round that used them.',
  through: 'Who let how many people through, and why.',
}

interface AuditActions {
  carried: (round: number, person: number, channel: Channel) => Promise<ActionResult<unknown>>
  carriedBack: (round: number, person: number, channel: Channel) => Promise<ActionResult<unknown>>
}

/** What somebody who answers for screening looks at once a week: the checks on the left, what each found on the right. */
export function AuditScreen({ audit, actions }: { audit: Audit; actions: AuditActions }) {
  const router = useRouter()
  const [{ check }, setView] = useViewInAddress<{ check: Check }>({ check: 'breaches' }, ({ check: asked }) => ({
    check: CHECKS.find((own) => own === asked) ?? 'breaches',
  }))
  const late = audit.registers.filter((register) => register.goodThrough < audit.today).length
  const alarm: Record<Check, boolean> = {
    breaches: audit.breaches.length > 0,
    toCarry: audit.toCarry.some((own) => own.late),
    registers: late > 0,
    ending: false,
    rules: false,
    through: false,
  }
  const figure: Record<Check, number> = {
    ...audit.found,
    registers: audit.registers.length,
    rules: audit.rules.length,
  }
  const shown =
    (check === 'breaches' || check === 'toCarry' || check === 'ending') && audit[check].length < figure[check]
      ? `The first ${count(audit[check].length)} of ${count(figure[check])}.`
      : undefined
  const loud = CHECKS.filter((own) => alarm[own])
  return (
    <Spread
      width="480px"
      label={{ left: 'The checks', right: 'What was found' }}
      left={
        <>
          <p className="quiet">
            <Link href="/screening">Screening</Link>
          </p>
          <h1>Audit</h1>
          <p className="quiet">What screening did in the last {audit.days} days, and what is due. Look at it once a week.</p>
          <table className="account mt-4" aria-label="Checks">
            <thead>
              <tr>
                <th scope="col">Check</th>
                <th scope="col" className="figure balance">
                  Found
                </th>
              </tr>
            </thead>
            <tbody>
              {CHECKS.map((own) => (
                <tr key={own} className={own === check ? 'bg-ochre-wash' : ''}>
                  <td>
                    <button
                      type="button"
                      className="min-h-6 text-left font-semibold hover:underline"
                      aria-pressed={own === check}
                      onClick={() => setView({ check: own })}
                    >
                      {TITLE[own]}
                    </button>
                    {alarm[own] && (
                      <span className="block text-madder">{own === 'registers' ? `${count(late)} too old` : 'needs somebody now'}</span>
                    )}
                  </td>
                  <td className={`figure balance ${alarm[own] ? 'text-madder' : ''}`}>{count(figure[own])}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-3" role="status">
            {loud.length === 0
              ? 'Nothing needs somebody now.'
              : `${loud.length === 1 ? 'One check needs' : `${count(loud.length)} checks need`} somebody now.`}
          </p>
          <label className="field mt-4 max-w-[200px]">
            <span>Look back</span>
            <select
              value={String(audit.days)}
              onChange={(event) => router.push(`/screening/audit?days=${event.target.value}&check=${check}`)}
            >
              {[...new Set([7, 30, 90, 366, audit.days])]
                .sort((a, b) => a - b)
                .map((days) => (
                  <option key={days} value={days}>
                    {days === 366 ? 'a year' : `${days} days`}
                  </option>
                ))}
            </select>
          </label>
        </>
      }
      right={
        <>
          <h2>{TITLE[check]}</h2>
          <p className="quiet mb-2">{ABOUT[check]}</p>
          {shown !== undefined && <p className="quiet">{shown}</p>}
          <Found check={check} audit={audit} actions={actions} />
        </>
      }
    />
  )
}

function Found({ check, audit, actions }: { check: Check; audit: Audit; actions: AuditActions }) {
  const person = (id: number | null, name: string) =>
    id === null ? (
      name
    ) : (
      <Link prefetch={false} href={`/directory/people/${id}`} className="font-semibold no-underline hover:underline">
        {name}
      </Link>
    )
  switch (check) {
    case 'breaches':
      return (
        <Table
          none="No contact was made in breach."
          head={['Who', 'Contact', 'Against']}
          rows={audit.breaches.map((b) => [
            `${b.person} ${b.at}`,
            person(b.person, b.name),
            `${CHANNEL_NAME[b.channel]} on ${day(b.at)} by ${b.by}`,
            `${REASON_NAME[b.reason]}, entered on ${day(b.recordedAt)}: ${b.word}`,
          ])}
        />
      )
    case 'toCarry':
      return (
        <Table
          none="No opt-out has to be carried to a file that left."
          head={['Who', 'File that left', 'By', '']}
          rows={audit.toCarry.map((own) => [
            `${own.round} ${own.person} ${own.channel}`,
            <>
              {person(own.person, own.name)}
              <span className="quiet block">opted out on {dateText(own.since)}</span>
            </>,
            <>
              {CHANNEL_NAME[own.channel]}, {own.roundName}
              <span className="quiet block">downloaded by {own.takenBy.join(', ')}</span>
            </>,
            <>
              <span className={own.late ? 'font-semibold text-madder' : ''}>
                {dateText(own.by)}
                {own.late && ', late'}
              </span>
              <span className="quiet block">{own.rule}</span>
            </>,
            <Carried key="carried" own={own} actions={actions} />,
          ])}
        />
      )
    case 'registers':
      return (
        <Table
          none="No register file has been brought in. Import one under Intake."
          head={['Register', 'Version', 'Last day of use']}
          rows={audit.registers.map((own) => [
            own.name,
            own.name,
            `${dateText(own.version)}, ${count(own.age)} days old`,
            <span key="through" className={own.goodThrough < audit.today ? 'font-semibold text-madder' : ''}>
              {dateText(own.goodThrough)}
              {own.goodThrough < audit.today && ': too old, nobody can be called'}
            </span>,
          ])}
        />
      )
    case 'ending':
      return (
        <Table
          none="No suppression ends within a week."
          head={['Who', 'Reason', 'Ends']}
          rows={audit.ending.map((own) => [String(own.id), person(own.personId, own.who), REASON_NAME[own.reason], dateText(own.until)])}
        />
      )
    case 'rules':
      return (
        <Table
          none="No rule stands out."
          head={['Rule', 'Policy', 'What it did']}
          rows={audit.rules.map((own) => [
            `${own.policy} ${own.rule}`,
            own.rule,
            own.policy,
            own.is === 'nobody'
              ? `closed nothing in ${count(own.rounds)} rounds`
              : `held back ${count(own.heldBack)} of ${count(own.opening)} in ${count(own.rounds)} ${own.rounds === 1 ? 'round' : 'rounds'}`,
          ])}
        />
      )
    case 'through':
      return (
        <Table
          none="Nobody was let through."
          head={['By', 'Reason', 'People', 'Last']}
          rows={audit.through.map((own) => [`${own.by} ${own.reason}`, own.by, own.reason, count(own.people), day(own.last)])}
        />
      )
  }
}

/** Rows with a key first; a sentence where there are none. */
function Table({ head, rows, none }: { head: string[]; rows: [key: string, ...cells: React.ReactNode[]][]; none: string }) {
  if (rows.length === 0) return <p className="mt-4 text-soft">{none}</p>
  return (
    <table className="people mt-1">
      <thead>
        <tr>
          {head.map((title) => (
            <th key={title} scope="col">
              {title || <span className="sr-only">What to do</span>}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([key, ...cells]) => (
          <tr key={key}>
            {cells.map((cell, i) => (
              <td key={head[i]}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Carried({ own: { round, person, channel, name }, actions }: { own: Audit['toCarry'][number]; actions: AuditActions }) {
  const [busy, begin] = useTransition()
  const carry = () =>
    begin(async () => {
      const done = await actions.carried(round, person, channel)
      if (!done.ok) return void toast.error(done.error)
      toast.success(`The opt-out of ${name} was carried.`, {
        duration: 12_000,
        action: {
          label: 'Undo',
          onClick: () =>
            void actions.carriedBack(round, person, channel).then((back) => {
              if (!back.ok) toast.error(back.error)
            }),
        },
      })
    })
  return (
    <button
      type="button"
      className="button px-2! py-0.5!"
      disabled={busy}
      aria-label={`The opt-out of ${name} was carried`}
      onClick={carry}
    >
      Carried
    </button>
  )
}
