'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { Confirmed, RoundAccount, RoundPage } from '@/core/views/round-views'
import type { Rule } from '@/core/screening/rules'
import { Arch } from './arch'
import { ask } from '@/ui/book/ask'
import { useNews } from '@/ui/book/book'
import { count, Figure } from '@/ui/book/figures'
import { CheckContact } from './check-contact'
import { LetThrough } from './let-through'
import { LetThroughAll, type LetThroughAllActions } from './let-through-all'
import { RecordTable } from '@/ui/tables/record-table'
import { useChosen } from '@/ui/tables/use-chosen'
import { roundStones } from './round-stones'
import { ReleaseButton } from './release-button'
import { differencesFromLast, LastRound } from './last-round'
import type { LayoutActions } from './layout-dialog'
import type { ShareActions } from './share-dialog'
import { RoundFiles } from './round-files'
import { askedView, channelsIn, type RoundView } from './round-view'
import { RoundSteps } from './round-steps'
import { roundSubtitle } from './round-words'
import { RuleSentence } from '@/ui/screening/rule-sentence'
import { StepsPlan } from './steps-plan'
import { type Steps, stepsText } from '@/core/rounds/steps'
import { SupplementOf, Supplements } from './supplements'
import { PlanCost } from './plan-cost'
import { PlanWeeks } from './plan-weeks'
import { RoundPolicy } from './round-policy'
import { RuleEffect } from './rule-effect'
import { OnlyShown } from './only-shown'
import { Besides, WaysClear } from './ways-clear'
import { Spread } from '@/ui/book/spread'
import { TabRow } from '@/ui/book/tab-row'
import { recordsOf, useRecords } from '@/ui/tables/use-records'
import { useViewInAddress } from '@/ui/book/view-in-address'
import { type Check, CheckClosed } from './check-closed'
import { CHANNEL_NAME, CHANNEL_TITLE, CHANNELS, type Channel, channelsOf } from '@/core/records/channels'

export interface RoundActions extends LetThroughAllActions, LayoutActions, ShareActions {
  changeRules: (id: number, rules: unknown, why?: string) => Promise<ActionResult<unknown>>
  onlyNew: (id: number, only: boolean) => Promise<ActionResult<unknown>>
  takePolicyOf: (id: number) => Promise<ActionResult<unknown>>
  release: (id: number, confirmed: Confirmed) => Promise<ActionResult<unknown>>
  close: (id: number) => Promise<ActionResult<unknown>>
  supplement: (id: number) => Promise<ActionResult<unknown>>
  steps: (id: number, steps: Steps) => Promise<ActionResult<unknown>>
  pass: (round: number, person: number, channel: Channel, reason: string) => Promise<ActionResult<unknown>>
  passBack: (round: number, person: number, channel: Channel) => Promise<ActionResult<unknown>>
  check: Check
}

/** A round's spread: its arch and the screening account on the left, the clear and the held back on the right. */
export function RoundScreen({ round, actions }: { round: RoundPage; actions: RoundActions }) {
  const router = useRouter()
  const [view, setView] = useViewInAddress<RoundView>(
    { tab: round.state === 'being built' ? 'held' : 'clear' },
    ({ tab, channel: by, rule = '', channels: ways = '' }) => {
      const channel = CHANNELS.find((c) => c === by)
      if (tab === 'clear' || tab === 'through' || tab === 'stopped') return { tab }
      if (tab === 'channel' && channel) return { tab, channel }
      const together = channelsIn(ways)
      if (tab === 'ways' && together.length > 0) return { tab, channels: together.join(',') }
      return tab === 'rule' && round.rules.some((own) => own.rule.id === rule) ? { tab, rule, ...(channel ? { channel } : {}) } : null
    },
  )
  const [rules, setRules] = useState(round.rules.map((r) => r.rule))
  // What somebody else changed of the rules meanwhile comes with the page when it is loaded again.
  const kept = JSON.stringify(round.rules.map((r) => r.rule))
  useEffect(() => setRules(JSON.parse(kept)), [kept])
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const building = round.state === 'being built'
  const [asked, setAsked] = useState(0)
  const [chosen, choose, chooseNone] = useChosen()
  const choosing = building && round.mayRelease && (view.tab === 'held' || view.tab === 'rule')
  const people = useRecords(['round', round.id, round.state, round.onlyNew, round.steps, rules, view, asked], async (offset, signal) => {
    const answer = await ask<RoundAccount>(
      `/api/rounds/${round.id}`,
      { view: askedView(view), offset, rules: building ? rules : undefined },
      signal,
    )
    return { ...recordsOf(answer.page), about: { figures: answer.figures, basis: answer.basis } }
  })
  const { figures = null, basis = null } = people.about ?? {}
  const passed = async (work: Promise<ActionResult<unknown>>): Promise<string | null> => {
    const result = await work
    if (!result.ok) return result.error
    setAsked((n) => n + 1)
    router.refresh()
    return null
  }
  useNews((news) => {
    if (building && news.is === 'data') setAsked((n) => n + 1)
    if (news.is === 'round' && news.round === round.id) router.refresh()
  })
  const run = (work: () => Promise<ActionResult<unknown>>, next?: string) =>
    begin(async () => {
      setTold(null)
      const result = await work()
      if (!result.ok) {
        setTold(result.error)
        setAsked((n) => n + 1)
      }
      if (result.ok && next) router.push(next)
      else router.refresh()
    })
  const change = (rule: Rule, why: string) => {
    changeAll(
      rules.map((own) => (own.id === rule.id ? rule : own)),
      why,
    )
  }
  const changeAll = (next: Rule[], why = 'split by channel') => {
    setRules(next)
    run(() => actions.changeRules(round.id, next, why))
  }
  const channels = figures ? channelsOf(figures.clear) : CHANNELS
  const chosenRule = view.tab === 'rule' ? rules.find((own) => own.id === view.rule) : undefined
  return (
    <Spread
      width="640px"
      label={{ left: 'The screening account', right: 'The people' }}
      left={
        <>
          <h1>
            Round {round.called} · {round.list}
          </h1>
          <p className="quiet">{roundSubtitle(round)}</p>
          <SupplementOf {...{ round, busy }} onDrop={() => run(() => actions.close(round.id), `/rounds/${round.base?.id}`)} />
          <div className="my-3 flex items-end gap-6">
            <Arch
              stones={roundStones(
                round.state,
                {
                  requalify: round.hasEarlier ? `/lists/${round.listId}/requalify` : `/lists/${round.listId}`,
                  screen: `/rounds/${round.id}`,
                  ...(building || round.check ? { check: `/rounds/${round.id}/check` } : {}),
                  contact: `/rounds/${round.id}/letter`,
                  ...(building ? {} : { results: `/rounds/${round.id}/results` }),
                },
                round.check && { passed: round.check.outcome === 'passes', ended: round.check.ended },
                round.toCome.open > 0,
              )}
            />
            <RoundSteps round={round} />
          </div>
          {told && (
            <p role="alert" className="told mb-2">
              {told}
            </p>
          )}
          <table className="account" aria-label="Screening account">
            <thead>
              <tr>
                <th scope="col">Line</th>
                {channels.map((channel) => (
                  <th key={channel} scope="col" className="figure">
                    {channel === 'direct' ? 'Direct' : CHANNEL_TITLE[channel]}
                  </th>
                ))}
                <th scope="col" className="figure balance">
                  Anyone left
                </th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td>
                  <b>Open</b> with the list, edition {round.edition}
                  {round.onlyNew && ', without whoever an earlier round released'}
                </td>
                {channels.map((channel) => (
                  <td key={channel} className="figure">
                    {count(figures?.opening)}
                  </td>
                ))}
                <td className="figure balance">{count(figures?.opening)}</td>
              </tr>
              {rules.map((rule) => {
                const own = figures?.rules.find((told) => told.rule === rule.id)
                return (
                  <tr key={rule.id} data-testid={`rule-${rule.id}`}>
                    <td>
                      <RuleSentence
                        rule={rule}
                        note={round.rules.find((told) => told.rule.id === rule.id)?.note ?? ''}
                        editable={building && round.mayRelease}
                        asksWhy
                        effect={(draft) => <RuleEffect round={round.id} rules={rules} now={figures} rule={draft} />}
                        onChange={change}
                      />
                    </td>
                    {channels.map((channel) => (
                      <td key={channel} className="figure">
                        <Figure
                          value={own?.out[channel]}
                          tone="out"
                          label={`${CHANNEL_NAME[channel]} closed`}
                          chosen={view.tab === 'rule' && view.rule === rule.id && view.channel === channel}
                          onChoose={() => setView({ tab: 'rule', rule: rule.id, channel })}
                        />
                        <Besides figures={own} channel={channel} />
                      </td>
                    ))}
                    <td className="figure balance">{count(own?.anyone)}</td>
                  </tr>
                )
              })}
              <tr className="total" data-testid="clear">
                <td>Clear to contact</td>
                {channels.map((channel) => (
                  <td key={channel} className="figure">
                    <Figure
                      value={figures?.clear[channel]}
                      tone="plain"
                      label={`Clear by ${CHANNEL_NAME[channel]}`}
                      chosen={view.tab === 'channel' && view.channel === channel}
                      onChoose={() => setView({ tab: 'channel', channel })}
                    />
                  </td>
                ))}
                <td className="figure balance">{count(figures?.anyone)}</td>
              </tr>
            </tbody>
          </table>
          <PlanCost rules={rules} figures={figures} {...(building && round.mayRelease ? { onSplit: changeAll } : {})} />
          {figures?.rules.some(({ alone }) => alone) && (
            <p className="quiet mt-1.5">Under a figure: how many the rule would close alone · how many only it closes.</p>
          )}
          <PlanWeeks round={round} rules={rules} figures={figures} />
          <StepsPlan
            {...{ round, figures, busy }}
            {...(round.mayRelease ? { onSave: (steps) => run(() => actions.steps(round.id, steps)) } : {})}
          />
          {building && round.mayRelease && (
            <div className="mt-4 flex items-center gap-3">
              <ReleaseButton
                called={round.called}
                list={round.list}
                figures={figures}
                differs={differencesFromLast(round.last, figures, rules)}
                steps={stepsText(round.steps)}
                check={round.check}
                disabled={busy || people.held || !figures || basis === null || figures.anyone === 0}
                onRelease={(clear) => run(() => actions.release(round.id, { basis: basis as string, clear }))}
              />
              <span className="quiet">Freezes the people and gives you one file per channel.</span>
            </div>
          )}
          {building && !round.mayRelease && <p className="quiet mt-4">Coordinators and managers release rounds.</p>}
          {!building && (
            <RoundFiles
              {...{ round, busy, actions }}
              onClose={() => run(() => actions.close(round.id))}
              onChanged={() => router.refresh()}
            />
          )}
          <Supplements {...{ round, busy }} onAdd={() => run(() => actions.supplement(round.id))} />
          {figures && (
            <WaysClear
              ways={figures.ways}
              chosen={view.tab === 'ways' ? channelsIn(view.channels) : null}
              onChoose={(channels) => setView({ tab: 'ways', channels: channels.join(',') })}
            />
          )}
          <LastRound
            {...{ round, figures, rules }}
            {...(building && round.mayRelease && !round.base ? { onOnlyNew: (only) => run(() => actions.onlyNew(round.id, only)) } : {})}
          />
          <RoundPolicy round={round} busy={busy} onTake={() => run(() => actions.takePolicyOf(round.id))} />
        </>
      }
      right={
        <>
          <TabRow
            label="Tabs of people"
            open={view.tab === 'rule' ? 'held' : view.tab === 'channel' || view.tab === 'ways' ? 'clear' : view.tab}
            onOpen={(tab) => setView({ tab: tab as 'clear' | 'held' | 'through' | 'stopped' })}
            tabs={[
              { key: 'clear', title: 'Clear', total: figures?.anyone ?? null },
              { key: 'held', title: 'Held back everywhere', total: figures?.heldBack ?? null },
              ...(round.letThrough > 0 ? [{ key: 'through', title: 'Let through', total: round.letThrough }] : []),
              ...(round.stopped.length > 0 ? [{ key: 'stopped', title: 'Stopped since', total: null }] : []),
            ]}
          />
          <OnlyShown view={view} total={people.total} rule={chosenRule} onAll={setView} />
          {choosing &&
            view.tab === 'rule' &&
            view.channel === 'email' &&
            chosenRule?.kind === 'address-quality' &&
            (people.total ?? 0) > 0 && (
              <CheckClosed round={round.id} rule={chosenRule.id} closed={people.total ?? 0} check={actions.check} />
            )}
          {choosing && (
            <LetThroughAll
              round={round.id}
              chosen={chosen}
              {...(view.tab === 'rule' && view.channel ? { by: view.channel } : {})}
              actions={actions}
              onDone={() => {
                setAsked((n) => n + 1)
                router.refresh()
              }}
              onClear={chooseNone}
            />
          )}
          <RecordTable
            subject="person"
            records={people}
            {...(choosing ? { chosen, onChoose: choose } : {})}
            because={
              view.tab === 'held'
                ? 'Held back because'
                : view.tab === 'rule'
                  ? 'Closed because'
                  : building && view.tab !== 'through'
                    ? undefined
                    : building
                      ? 'Let through because'
                      : 'Why on the list'
            }
            beside={
              building && round.mayRelease
                ? ({ person }) =>
                    person && (
                      <LetThrough
                        person={person}
                        onPass={(channel, reason) => passed(actions.pass(round.id, person.id, channel, reason))}
                        onBack={(channel) => passed(actions.passBack(round.id, person.id, channel))}
                      />
                    )
                : round.state === 'released' && round.mayTake
                  ? ({ person }) => person && <CheckContact round={round.id} person={person} />
                  : undefined
            }
            empty={view.tab === 'held' ? 'Nobody is held back on every channel.' : 'Nobody.'}
          />
        </>
      }
    />
  )
}
