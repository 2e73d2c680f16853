import { daysBetween, localDate } from '@/core/calendar/local-day'
import { countryCode } from '@/core/clean/country'
import { carryBy } from '@/core/screening/carry-by'
import { isOff, ruleNamed } from '@/core/screening/rules'
import type { Audit } from '@/core/views/audit-views'
import { db } from '@/db/connection'
import { breaches, letThroughSince, notCarried, roundsSince } from '@/db/screening/audit-rows'
import { endingSoon } from '@/db/screening/suppression-rows'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, mustCoordinate } from '@/usecases/team/actor'
import { registersInUse } from './lift-suppressions'

const DAY = 86_400_000
/** Whoever a rule holds back of these is nearly everybody (common practice, no source). */
const NEARLY = 0.9
/** A rule that did nothing is told of once so many rounds used it. */
const ROUNDS = 3

/** What screening did lately and what is due: for whoever answers for it, once a week. `days` back, a year at most. */
export async function audit(actor: Actor, days: number): Promise<Audit> {
  mustCoordinate(actor, 'The audit')
  const at = now()
  const zone = settings().ARCH_ZONE
  const back = Math.min(366, Math.max(1, Math.trunc(days) || 30))
  const since = new Date(at.getTime() - back * DAY)
  const today = localDate(at.getTime(), zone)
  const inBreach = await breaches(db(), since)
  const due = await notCarried(db(), actor.id)
  const ending = await endingSoon(db(), at, new Date(at.getTime() + 7 * DAY))
  const through = await letThroughSince(db(), since)
  return {
    today,
    days: back,
    found: { breaches: inBreach[0]?.of ?? 0, toCarry: due[0]?.of ?? 0, ending: ending[0]?.of ?? 0, through: through[0]?.of ?? 0 },
    registers: (await registersInUse(db())).map((register) => ({ ...register, age: daysBetween(register.version, today) })),
    ending: ending.map((s) => ({
      id: s.id,
      who: s.name ?? s.hint,
      personId: s.person_id,
      reason: s.reason,
      until: localDate(s.until.getTime(), zone),
    })),
    rules: await rulesThatStandOut(since),
    toCarry: due.map((row) => {
      const day = localDate(row.recorded_at.getTime(), zone)
      const { by, rule } = carryBy(day, countryCode(row.country))
      return {
        round: row.round,
        roundName: `round ${row.called} of ${row.list}`,
        person: row.person,
        name: row.name,
        channel: row.channel,
        since: day,
        by,
        rule,
        late: by < today,
        takenBy: row.taken,
      }
    }),
    breaches: inBreach.map((row) => ({
      person: row.person,
      name: row.name,
      at: row.at.toISOString(),
      channel: row.channel,
      by: row.by ?? 'somebody who left',
      reason: row.reason,
      recordedAt: row.recorded_at.toISOString(),
      word: row.word,
    })),
    through: through.map(({ by, reason, people, last }) => ({
      by: by ?? 'somebody who left',
      reason,
      people,
      last: last.toISOString(),
    })),
  }
}

/** Rules that held back nobody, or nearly everybody, in each of the rounds that used them, by policy. */
async function rulesThatStandOut(since: Date): Promise<Audit['rules']> {
  const used = new Map<string, Audit['rules'][number] & { all: ('nobody' | 'nearly everybody' | null)[] }>()
  for (const { rules, figures, policy } of await roundsSince(db(), since)) {
    if (!figures || figures.opening === 0) continue
    for (const rule of rules) {
      if (isOff(rule)) continue
      const told = figures.rules.find((own) => own.rule === rule.id)
      if (!told) continue
      const closed = Object.values(told.out).reduce((sum, out) => sum + out, 0)
      const is = closed === 0 ? ('nobody' as const) : told.anyoneOut >= figures.opening * NEARLY ? ('nearly everybody' as const) : null
      const name = ruleNamed(rules, rule.id)
      const key = `${policy} | ${rule.id}`
      const own = used.get(key) ?? {
        rule: name,
        policy: policy ?? 'rules of the round',
        rounds: 0,
        heldBack: 0,
        opening: 0,
        is: 'nobody',
        all: [],
      }
      used.set(key, {
        ...own,
        rule: name,
        rounds: own.rounds + 1,
        heldBack: own.heldBack + told.anyoneOut,
        opening: own.opening + figures.opening,
        all: [...own.all, is],
      })
    }
  }
  return [...used.values()].flatMap(({ all, ...rule }) => {
    const [is] = all
    const same = is !== null && all.every((own) => own === is)
    return same && (is === 'nearly everybody' || all.length >= ROUNDS) ? [{ ...rule, is }] : []
  })
}
