import type { StratumPart } from '@/core/checks/parts'
import { namesIn } from '@/db/lists/named-things'
import { lineText } from '@/core/lists/line'
import { allows } from '@/core/records/list-roles'
import type { FitCard, FitCheckView, FitPage, FitStratumView, FitVerdictView } from '@/core/views/fit-views'
import { db } from '@/db/connection'
import { type FitCheckRow, newestFitCheck } from '@/db/rounds/fit-rows'
import { EngineAway } from '@/engine/client'
import { type Actor, mayCoordinate } from '@/usecases/team/actor'
import { agreements, type Seen, type Tally, tallyOf } from './fit-tally'
import { basisOf, type RoundBasis } from './round-basis'
import { calledOf, roundFor, stateOf } from './rounds'
import { askScreening } from './screen-round'

/** So many are sent ahead, so that the next one is there before a verdict is kept. */
const AHEAD = 4

/** The fit check of a round: the newest sample with what was said, and the next one to look at. `second`: those a colleague judged already. */
export async function fitPage(actor: Actor, id: number, second = false): Promise<FitPage> {
  const { round, list } = await roundFor(actor, id)
  const building = !round.released_at
  const basis = building ? await basisOf(db(), id, list.id) : null
  const check = await newestFitCheck(db(), id)
  const uses = allows(list.role, 'use')
  return {
    round: id,
    called: calledOf(round),
    list: list.name,
    listId: list.id,
    state: stateOf(round),
    clear: basis && (!check || check.ended_at || check.basis !== basis.whoPrint) ? await clearNow(list, basis) : null,
    mayDraw: building && uses && mayCoordinate(actor),
    mayJudge: building && uses,
    mayEdit: building && allows(list.role, 'edit'),
    check: check ? viewOf(actor, check, await tallyOf(db(), check), basis, second, await filesIn(check)) : null,
  }
}

async function clearNow(list: { id: number; zone: string }, basis: RoundBasis): Promise<number | null> {
  try {
    return (await askScreening(list, basis, { tab: 'clear' }, { offset: 0, limit: 0 })).answer.figures.anyone
  } catch (error) {
    if (error instanceof EngineAway) return null
    throw error
  }
}

function viewOf(
  actor: Actor,
  check: FitCheckRow,
  tally: Tally,
  basis: RoundBasis | null,
  second: boolean,
  files: ReadonlyMap<number, string>,
): FitCheckView {
  const here = tally.seen.filter(({ of }) => of.live)
  const open = here.filter(({ counts }) => counts === null)
  const others = here.filter(({ all }) => {
    const own = all.filter(({ check_id }) => check_id === check.id)
    return own.length > 0 && !own.some(({ by_id }) => by_id === actor.id)
  })
  const next = (second ? others : open).slice(0, AHEAD)
  const { whole } = tally
  return {
    id: check.id,
    number: check.number,
    plan: check.plan,
    edition: check.edition,
    drawnAt: check.drawn_at.toISOString(),
    drawnBy: check.drawn_by ?? 'a former colleague',
    sample: tally.seen.length,
    strata: tally.strata.map((own, i): FitStratumView => ({ ...own, ...originTold(check, i, files) })),
    share: whole.share,
    low: whole.low,
    high: whole.high,
    covers: whole.covers,
    outcome: check.outcome ?? tally.outcome,
    ended: check.ended_at && { at: check.ended_at.toISOString(), by: check.ended_by ?? 'a former colleague' },
    tally: tally.verdicts,
    toSee: open.length,
    gone: tally.seen.length - here.length,
    cards: !check.ended_at && basis ? next.map(cardOf) : [],
    secondToSee: others.length,
    seen: here
      .filter((own): own is Seen & { counts: NonNullable<Seen['counts']> } => own.counts !== null)
      .sort((a, b) => b.counts.id - a.counts.id)
      .map((own) => verdictView(actor, check, own)),
    agreement: agreements(check, tally.seen),
    changed: basis !== null && basis.whoPrint !== check.basis,
  }
}

/** Where a stratum's people come from, by the lines of the edition it was drawn from. */
function originTold(check: FitCheckRow, at: number, files: ReadonlyMap<number, string>): { title: string; detail: string | null } {
  const { line, unknownOf, part } = check.strata[at]
  const [place, from] = [check.lines.findIndex(({ id }) => id === line), check.lines.find(({ id }) => id === line)]
  const asked = check.lines.find(({ id }) => id === unknownOf)
  const title = from ? lineText(from) : 'A line that was removed'
  const told = asked
    ? { title: `Unknown to line ${check.lines.indexOf(asked) + 1}, counted as yes`, detail: lineText(asked) }
    : { title, detail: place > 0 ? `let in by line ${place + 1}` : check.strata.length > 1 ? 'all that the lines ask is known' : null }
  return part ? { ...told, detail: partText(part, files) } : told
}

function partText(part: StratumPart, files: ReadonlyMap<number, string>): string {
  if (part.of === 'batch')
    return part.batch === null ? 'from other files, or entered by hand' : `from ${files.get(part.batch) ?? 'a file that is gone'}`
  if (part.of === 'rank')
    return ['the first third by the limit', 'the second third by the limit', 'the last third by the limit'][part.third - 1]
  return part.days === null ? 'nothing about them changed for a year' : `something about them changed within ${part.days} days`
}

/** The names of the files that a check's strata are of. */
const filesIn = (check: FitCheckRow): Promise<Map<number, string>> =>
  namesIn(
    db(),
    'batch',
    check.strata.flatMap(({ part }) => (part?.of === 'batch' && part.batch !== null ? [part.batch] : [])),
    'file_name',
  )

function cardOf({ of }: Seen): FitCard {
  return {
    person: of.person,
    place: of.place + 1,
    name: of.name,
    facts: [
      { name: 'organisation', value: of.organisation },
      { name: 'role', value: of.role },
      { name: 'industry', value: of.industry },
      { name: 'head count', value: of.heads === null ? null : String(of.heads) },
      { name: 'town', value: of.town },
      { name: 'relation to us', value: of.relation },
      ...(of.tags.length > 0 ? [{ name: 'tags', value: of.tags.join(', ') }] : []),
    ],
    came: of.file ?? 'entered by hand',
  }
}

function verdictView(
  actor: Actor,
  check: FitCheckRow,
  { of, counts, all }: Seen & { counts: NonNullable<Seen['counts']> },
): FitVerdictView {
  return {
    person: of.person,
    name: of.name,
    under: [of.role, of.organisation].filter(Boolean).join(', '),
    verdict: counts.verdict,
    reason: counts.reason,
    note: counts.note,
    by: counts.by ?? 'a former colleague',
    mine: counts.by_id === actor.id && counts.check_id === check.id,
    at: counts.at.toISOString(),
    fromRound: counts.check_id === check.id ? null : counts.round,
    otherwise: all
      .filter((own) => own.check_id === check.id && own.id !== counts.id && own.verdict !== counts.verdict)
      .map((own) => ({ by: own.by ?? 'a former colleague', verdict: own.verdict })),
  }
}
