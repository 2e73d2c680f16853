'use client'

import { Popover } from 'radix-ui'
import { Fragment } from 'react'
import { coverText, isOff, type Rule, ruleKind, spaceAfter } from '@/core/screening/rules'
import { RuleForm } from './rule-form'

/** A rule as a sentence, with the settings that can be changed as chips, and a second, softer line under it. */
export function RuleSentence({
  rule,
  note,
  editable,
  asksWhy,
  effect,
  onChange,
  children,
}: {
  rule: Rule
  note: string
  editable: boolean
  asksWhy?: boolean
  effect?: (draft: Rule) => React.ReactNode
  onChange: (rule: Rule, why: string) => void
  /** What else can be done with it, beside *Switch off*. */
  children?: React.ReactNode
}) {
  const { sentence, form, optional, name } = ruleKind(rule)
  const off = isOff(rule)
  const phrases = sentence(rule)
  const chips = phrases.some((phrase) => 'chip' in phrase)
  const cover = coverText(rule)
  const line = (
    <>
      <span className={`font-semibold ${off ? 'text-soft line-through' : ''}`}>
        {phrases.map((phrase, i) =>
          'text' in phrase ? (
            `${phrase.text}${spaceAfter(phrases, i)}`
          ) : (
            <Fragment key={phrase.field}>
              {editable && !off ? (
                <Popover.Trigger className="chip">{phrase.chip}</Popover.Trigger>
              ) : (
                <span className="chip">{phrase.chip}</span>
              )}
              {spaceAfter(phrases, i)}
            </Fragment>
          ),
        )}
      </span>
      <span className="quiet block">
        {[note, cover].filter(Boolean).join('; ')}
        {'source' in rule && rule.source && <span className="block">Source: {rule.source}</span>}{' '}
        {editable && (optional || rule.kind === 'register') && !off && !chips && (
          <Popover.Trigger className="mr-2 font-semibold text-verdigris hover:underline" aria-label={`Change: ${name}`}>
            Change
          </Popover.Trigger>
        )}
        {optional && editable && (
          <button
            type="button"
            className="mr-2 font-semibold text-verdigris hover:underline"
            onClick={() => onChange({ ...rule, off: !off } as Rule, '')}
          >
            {off ? 'Switch on' : 'Switch off'}
          </button>
        )}
        {children}
      </span>
    </>
  )
  return form.length > 0 || optional || rule.kind === 'register' ? (
    <RuleForm rule={rule} asksWhy={asksWhy} effect={effect} onChange={onChange}>
      {line}
    </RuleForm>
  ) : (
    line
  )
}
