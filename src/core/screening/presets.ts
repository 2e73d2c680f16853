import { newRuleId, type Rule } from './rules'

/** What a rule of a preset is, but for the id it gets in a policy. */
type PresetRule = { [K in Rule['kind']]: Omit<Extract<Rule, { kind: K }>, 'id'> }[Rule['kind']] & { countries: string[]; source: string }

/** The rules of a country or a union of countries. They are help for whoever writes a policy, and no legal advice. */
export interface Preset {
  id: string
  name: string
  countries: string[]
  rules: PresetRule[]
  /** Whether an established relationship lets a number on the register be called. */
  established?: { source: string }
  /** Business days after an opt-out by which it must be carried everywhere, and where that is from; absent where it is at once. */
  optOut: { days: number; of: 'business days' | 'calendar days'; source: string }
}

const CHECKED = '28 Nov 2026'
const EU = 'AT BE BG CY CZ DE DK EE ES FI FR GR HR HU IE IT LT LU LV MT NL PL PT RO SE SI SK'.split(' ')

export const PRESETS: readonly Preset[] = [
  {
    id: 'US',
    name: 'United States',
    countries: ['US'],
    established: { source: '16 CFR 310.2(q): 18 months after a purchase, 3 months after an inquiry' },
    optOut: { days: 10, of: 'business days', source: '15 USC 7704(a)(4): 10 business days' },
    rules: [
      {
        kind: 'register-age',
        off: false,
        version: null,
        goodFor: 31,
        countries: ['US'],
        source: `16 CFR 310.4(b)(3)(iv): a version obtained no more than 31 days before the call; checked ${CHECKED}`,
      },
      {
        kind: 'calling-hours',
        off: false,
        channels: ['phone'],
        from: '08:00',
        until: '21:00',
        countries: ['US'],
        source: `47 CFR 64.1200(c)(1): 8 am to 9 pm where the called party is; checked ${CHECKED}`,
      },
    ],
  },
  {
    id: 'GB',
    name: 'United Kingdom',
    countries: ['GB'],
    optOut: { days: 0, of: 'calendar days', source: 'UK GDPR article 21(3): no longer, so at once (from memory)' },
    rules: [
      {
        kind: 'register-age',
        off: false,
        version: null,
        goodFor: 28,
        countries: ['GB'],
        source: `PECR regulation 21: numbers registered for 28 days must not be called, so the file is no older; checked ${CHECKED}`,
      },
      {
        kind: 'legal-basis',
        off: false,
        channels: ['email', 'direct'],
        accepted: ['consent', 'legitimate interests', 'contract'],
        unknown: 'is held back',
        countries: ['GB'],
        source: 'UK GDPR article 6(1) and PECR regulation 22; from memory, not checked',
      },
      {
        kind: 'quiet-days',
        off: false,
        channels: ['phone'],
        weekends: 'not quiet',
        asked: 'before each contact',
        countries: ['GB'],
        source: 'common practice, no source: no calls on bank holidays; from memory, not checked',
      },
    ],
  },
  {
    id: 'EU',
    name: 'European Union, in general',
    countries: EU,
    optOut: { days: 0, of: 'calendar days', source: 'Regulation (EU) 2016/679, article 21(3): no longer, so at once (from memory)' },
    rules: [
      {
        kind: 'legal-basis',
        off: false,
        accepted: ['consent', 'legitimate interests', 'contract'],
        unknown: 'is held back',
        channels: ['email', 'phone', 'direct'],
        countries: EU,
        source: 'Regulation (EU) 2016/679, article 6(1), and Directive 2002/58/EC, article 13; from memory, not checked',
      },
      {
        kind: 'quiet-days',
        off: false,
        channels: ['phone'],
        weekends: 'quiet',
        asked: 'before each contact',
        countries: EU,
        source: 'common practice, no source: members differ, so it is the stricter; from memory, not checked',
      },
    ],
  },
]

/** The rules of a policy with those of a preset, which are then its own to be edited. What it has of the preset already stays as it is. */
export function withPreset(rules: readonly Rule[], preset: Preset): Rule[] {
  const same = (own: Rule, rule: PresetRule) =>
    own.kind === rule.kind && 'countries' in own && own.countries?.join() === rule.countries.join()
  const next = rules.map((rule) =>
    rule.kind === 'register' && preset.established
      ? { ...rule, established: [...new Set([...(rule.established ?? []), ...preset.countries])] }
      : rule,
  )
  for (const rule of preset.rules) if (!next.some((own) => same(own, rule))) next.push({ ...rule, id: newRuleId(rule.kind, next) } as Rule)
  return next
}
