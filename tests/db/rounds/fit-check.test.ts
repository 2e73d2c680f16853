import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import type { FitPage } from '@/core/views/fit-views'
import { mergePeople } from '@/usecases/directory/merge-people'
import { erasePerson } from '@/usecases/directory/erase-person'
import { createList } from '@/usecases/lists/create-list'
import { keepDraft } from '@/usecases/lists/drafts'
import { openList } from '@/usecases/lists/open-list'
import { proposalsFor } from '@/usecases/lists/proposals'
import { setOpeners } from '@/usecases/lists/set-openers'
import { saveEdition } from '@/usecases/lists/save-edition'
import { shareList } from '@/usecases/lists/share-list'
import { beginFitCheck } from '@/usecases/rounds/begin-fit-check'
import { closeRound } from '@/usecases/rounds/close-round'
import { endFitCheck } from '@/usecases/rounds/end-fit-check'
import { fitPage } from '@/usecases/rounds/fit-page'
import { fitPatterns } from '@/usecases/rounds/fit-patterns'
import { judgeFit, takeBackFit } from '@/usecases/rounds/judge-fit'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { startRound } from '@/usecases/rounds/start-round'
import { tightenList } from '@/usecases/rounds/tighten-list'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const keepManagers: Line = {
  id: 'level',
  verb: 'keep',
  off: false,
  unknownAsYes: true,
  criterion: { kind: 'level', any: ['manager'] },
}
const PLAN = { kind: 'fixed', wanted: 0.9, sure: 95, size: 40 }
const HOLIDAY = ['Mere View Lets', 'Larch House Lets']

/** Forty people: managers of schools and of holiday lets, and some of whom no role is known. */
const people = Array.from({ length: 40 }, (_, i) => ({
  name: `${['Ada', 'Ben', 'Cyd', 'Dov', 'Eve'][i % 5]} Sample${'abcdefgh'[Math.floor(i / 5)]}`,
  role: i % 8 === 7 ? '' : 'Site manager',
  organisation: i % 4 === 1 ? HOLIDAY[i % 2] : `School ${i}`,
  industry: i % 4 === 1 ? 'Holiday let' : 'School',
}))

beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'sample.csv',
    `Id,Name,Role,Organisation,Industry,Email\n${people.map((p, i) => `F${i},${p.name},${p.role},${p.organisation},${p.industry},f${i}@sample.example`).join('\n')}\n`,
  )
})

let made = 0
async function round(lines: Line[] = [start, keepManagers]): Promise<{ list: number; round: number }> {
  const list = await createList(t.ines, `Sampled ${++made}`, true, lines)
  return { list, round: await startRound(t.ines, list) }
}
const page = (id: number, actor = t.ines, second = false) => fitPage(actor, id, second)
const check = (of: FitPage) => of.check as NonNullable<FitPage['check']>

/** Judges everybody of a sample: those of a holiday let do not belong. */
async function judgeAll(id: number, actor = t.ines): Promise<void> {
  for (let now = await page(id, actor); check(now).cards.length > 0; now = await page(id, actor))
    for (const card of check(now).cards) {
      const industry = card.facts.find(({ name }) => name === 'industry')?.value
      await judgeFit(
        actor,
        check(now).id,
        card.person,
        industry === 'Holiday let' ? { verdict: 'does not', reason: 'organisation' } : { verdict: 'fits' },
      )
    }
}

describe('a fit check', () => {
  test('draws from those who are clear, by the line that let them in, and adds up as they are judged', async () => {
    const { round: id, list } = await round()
    expect(await page(id)).toMatchObject({ check: null, clear: 40, mayDraw: true })
    await beginFitCheck(t.ines, id, { ...PLAN, size: 20 })
    const drawn = check(await page(id))
    expect(drawn.strata.map(({ title, size }) => [title, size])).toEqual([
      ['Start with everyone in the directory', 35],
      ['Unknown to line 2, counted as yes', 5],
    ])
    expect([drawn.sample, drawn.toSee, drawn.outcome, drawn.share]).toEqual([20, 20, 'open', null])
    // Another opener is no other list.
    const kind = await t.app('change_kind').where({ key: 'role' }).first('id')
    await setOpeners(t.ines, list, [{ kind: kind.id, own: 'Well done.' }])
    expect(check(await page(id)).changed).toBe(false)
    // The next ones come before a verdict is kept, in the order of the sample.
    expect(drawn.cards.map(({ place }) => place)).toEqual([1, 2, 3, 4])
    await judgeAll(id)
    const seen = check(await page(id))
    const unfit = seen.seen.filter(({ verdict }) => verdict === 'does not').length
    expect(seen.tally).toEqual({ fits: 20 - unfit, 'does not': unfit, 'cannot tell': 0 })
    expect(seen.strata.reduce((sum, own) => sum + own.seen, 0)).toBe(20)
    const share = seen.strata.reduce((sum, own) => sum + (own.size / 40) * (own.fit / own.seen), 0)
    expect(seen.share).toBeCloseTo(share, 10)
    expect(seen.low).toBeLessThan(share)
    expect(seen.high).toBeGreaterThan(share)
    expect((await openRound(t.ines, id)).check).toMatchObject({ seen: 20, sample: 20, ended: false })
  })

  test('of everybody is certain: it fails where too few fit, and passes once the list is tightened', async () => {
    const { round: id, list } = await round()
    await beginFitCheck(t.ines, id, PLAN)
    await judgeAll(id)
    const first = check(await page(id))
    expect([first.share, first.low, first.outcome]).toEqual([0.75, 0.75, 'fails'])
    const found = await fitPatterns(t.ines, id)
    expect(found[0]).toMatchObject({ title: 'Industry', unfit: 10, fit: 0, allUnfit: 10, allFit: 30, on: 40, after: 30 })
    expect(found[0].sentence).toBe('Drop organisation is a Holiday let')
    expect(await tightenList(t.ines, id, found[0].id)).toBe(2)
    expect((await openList(t.ines, list)).lines.at(-1)).toMatchObject({
      verb: 'drop',
      criterion: { kind: 'industry', any: ['Holiday let'] },
    })
    expect(check(await page(id)).changed).toBe(true)
    await beginFitCheck(t.ines, id, { ...PLAN, size: 30 })
    const anew = check(await page(id))
    // Drawn afresh; whoever was judged before is not judged twice.
    expect([anew.number, anew.changed, anew.sample, anew.toSee, anew.outcome]).toEqual([2, false, 30, 0, 'passes'])
    expect(await endFitCheck(t.ines, anew.id)).toBe('passes')
    expect(check(await page(id)).ended).not.toBeNull()
    await expect(endFitCheck(t.ines, anew.id)).rejects.toThrow(/has ended/)
  })

  test('an unknown that a line counts as yes can be counted as no with one press', async () => {
    const { round: id, list } = await round()
    await beginFitCheck(t.ines, id, PLAN)
    for (let now = await page(id); check(now).cards.length > 0; now = await page(id))
      for (const card of check(now).cards) {
        const known = card.facts.find(({ name }) => name === 'role')?.value !== null
        await judgeFit(t.ines, check(now).id, card.person, known ? { verdict: 'fits' } : { verdict: 'does not', reason: 'role' })
      }
    const [found] = await fitPatterns(t.ines, id)
    expect(found).toMatchObject({ title: 'Unknown', changes: true, unfit: 5, fit: 0, on: 40, after: 35 })
    await tightenList(t.ines, id, found.id)
    expect((await openList(t.ines, list)).lines).toEqual([start, { ...keepManagers, unknownAsYes: false }])
  })

  test('whoever may not edit the list proposes', async () => {
    const { round: id, list } = await round()
    await shareList(t.ines, list, { team: 'use', members: [] })
    await beginFitCheck(t.ines, id, PLAN)
    await judgeAll(id, t.tam)
    const [found] = await fitPatterns(t.tam, id)
    expect(await tightenList(t.tam, id, found.id)).toBeNull()
    expect((await openList(t.ines, list)).edition).toBe(1)
    expect((await proposalsFor(t.ines, list))[0]).toMatchObject({ by: 'Tam Reyes' })
    await expect(tightenList(t.tam, id, 'town Nowhere')).rejects.toThrow(/does not stand out/)
    // Pressed once more, there is still one proposal; what he had not saved of the list stays.
    await keepDraft(t.tam, list, 1, [start, keepManagers, { ...keepManagers, id: 'own', unknownAsYes: false }])
    await expect(tightenList(t.tam, id, found.id)).rejects.toThrow(/proposed this already/)
    expect(await proposalsFor(t.ines, list)).toHaveLength(1)
    const other = (await fitPatterns(t.tam, id)).find((own) => own.id !== found.id)
    if (other) await tightenList(t.tam, id, other.id)
    expect((await openList(t.tam, list)).draft?.lines).toHaveLength(3)
  })

  test('stops a sequential plan as soon as it is clear', async () => {
    const { round: id } = await round()
    await beginFitCheck(t.ines, id, { kind: 'sequential', wanted: 0.9, sure: 90, poor: 0.5, size: 40 })
    let judged = 0
    for (let now = check(await page(id)); now.outcome === 'open'; now = check(await page(id)), judged++)
      await judgeFit(t.ines, now.id, now.cards[0].person, { verdict: 'fits' })
    expect(check(await page(id)).outcome).toBe('passes')
    // ln(9) / ln(.9/.5), by hand: 3.74.
    expect(judged).toBe(4)
  })

  test('does not let what was said before decide a sequential plan out of turn', async () => {
    const { round: id } = await round()
    await beginFitCheck(t.ines, id, { ...PLAN, size: 5 })
    for (let now = check(await page(id)); now.cards.length > 0; now = check(await page(id)))
      for (const { person } of now.cards) await judgeFit(t.ines, now.id, person, { verdict: 'fits' })
    await beginFitCheck(t.ines, id, { kind: 'sequential', wanted: 0.9, sure: 90, poor: 0.5, size: 40 })
    const now = check(await page(id))
    // Five who fit would be enough; only those before the first who was never seen count.
    expect(now.tally.fits).toBe(5)
    expect([now.cards[0].place < 5, now.outcome]).toEqual([true, 'open'])
  })
})

describe('verdicts', () => {
  test('are taken back, said otherwise, and compared with a second colleague’s', async () => {
    const { round: id } = await round()
    const checkId = await beginFitCheck(t.ines, id, PLAN)
    const [one, two] = check(await page(id)).cards.map(({ person }) => person)
    await judgeFit(t.ines, checkId, one, { verdict: 'fits' })
    await judgeFit(t.ines, checkId, one, { verdict: 'does not', reason: 'other', note: ' asked to be left out ' })
    await judgeFit(t.ines, checkId, two, { verdict: 'cannot tell' })
    let now = check(await page(id))
    expect(now.seen.map(({ person, verdict, reason, note, mine }) => [person, verdict, reason, note, mine])).toEqual([
      [two, 'cannot tell', null, null, true],
      [one, 'does not', 'other', 'asked to be left out', true],
    ])
    await takeBackFit(t.ines, checkId, two)
    await expect(takeBackFit(t.ines, checkId, two)).rejects.toThrow(/said nothing/)
    // Tam looks at those Ines judged.
    const second = check(await page(id, t.tam, true))
    expect([second.secondToSee, second.cards.map(({ person }) => person)]).toEqual([1, [one]])
    await judgeFit(t.tam, checkId, one, { verdict: 'fits' })
    now = check(await page(id))
    expect(now.agreement).toEqual([{ both: 1, same: 0, kappa: 0, who: ['Ines Okafor', 'Tam Reyes'] }])
    expect(now.seen[0]).toMatchObject({ verdict: 'fits', by: 'Tam Reyes', otherwise: [{ by: 'Ines Okafor', verdict: 'does not' }] })
  })

  test('hold for the next round as long as what they rest on is the same', async () => {
    const { round: id, list } = await round()
    const first = await beginFitCheck(t.ines, id, PLAN)
    await judgeAll(id)
    await releaseRound(t.ines, id)
    await expect(judgeFit(t.ines, first, check(await page(id)).seen[0].person, { verdict: 'fits' })).rejects.toThrow(/is released/)
    await closeRound(t.ines, id)
    await broughtIn(t.ines, 'changed.csv', 'Id,Name,Role\nF0,Ada Samplea,Headmistress\n')
    const next = await startRound(t.ines, list)
    await saveEdition(t.ines, list, 1, [start])
    await beginFitCheck(t.ines, next, PLAN)
    const now = check(await page(next))
    expect(now.toSee).toBe(1)
    expect(now.cards[0].facts).toContainEqual({ name: 'role', value: 'Headmistress' })
    expect(now.seen.every(({ fromRound }) => fromRound === 1)).toBe(true)
  })

  test('on somebody known to us set how they stand to us, for every list', async () => {
    const { round: id } = await round()
    const checkId = await beginFitCheck(t.ines, id, PLAN)
    const [{ person, name }] = check(await page(id)).cards
    await judgeFit(t.ines, checkId, person, { verdict: 'does not', reason: 'known to us', relation: 'customer' })
    expect(
      await t.app('entry').where({ person_id: person, kind: 'change' }).orderBy('id', 'desc').first('field', 'actor_id'),
    ).toMatchObject({
      field: 'relation',
      actor_id: t.ines.id,
    })
    // The verdict rests on what they are now.
    expect(check(await page(id)).seen.find((own) => own.person === person)).toMatchObject({ name, reason: 'known to us' })
    const { page: held } = await screenRound(t.ines, id, { tab: 'held' })
    expect(held.people.map((p) => p.id)).toContain(person)
    await expect(judgeFit(t.ines, checkId, person, { verdict: 'fits', relation: 'customer' })).rejects.toThrow(/known to us/)
    // Taken back or said otherwise, they stand to us as they did; not where somebody changed that since.
    const relation = async () => (await t.app('person').where({ id: person }).first('relation')).relation
    await judgeFit(t.ines, checkId, person, { verdict: 'does not', reason: 'known to us', relation: 'partner' })
    expect(await relation()).toBe('partner')
    await takeBackFit(t.ines, checkId, person)
    expect(await relation()).toBeNull()
    await judgeFit(t.ines, checkId, person, { verdict: 'does not', reason: 'known to us', relation: 'customer' })
    await t.owner('person').where({ id: person }).update({ relation: 'supplier' })
    await judgeFit(t.ines, checkId, person, { verdict: 'fits' })
    expect(await relation()).toBe('supplier')
  })

  test('of whoever was merged or erased do not count, and nothing is kept on them', async () => {
    const { round: id } = await round([start])
    const checkId = await beginFitCheck(t.ines, id, PLAN)
    const [one, two, three] = check(await page(id)).cards.map(({ person }) => person)
    await judgeFit(t.ines, checkId, one, { verdict: 'does not', reason: 'other', note: 'a cousin of the mayor' })
    await mergePeople(t.ines, three, two)
    await erasePerson({ ...t.ines, post: 'manager' }, one)
    expect((await t.app('fit_verdict').where({ person_id: one }).first('note')).note).toBeNull()
    const now = check(await page(id))
    expect([now.gone, now.sample - now.toSee]).toEqual([2, 2])
    expect(now.tally).toEqual({ fits: 0, 'does not': 0, 'cannot tell': 0 })
    await expect(judgeFit(t.ines, checkId, two, { verdict: 'fits' })).rejects.toThrow(/no longer in the directory/)
  })
})

describe('is refused', () => {
  test('where the plan is none, the round is out, or somebody is not of the sample', async () => {
    const { round: id } = await round()
    const says = (plan: object) => expect(beginFitCheck(t.ines, id, { ...PLAN, ...plan })).rejects
    await says({ wanted: 1.2 }).toThrow(/99 % at most/)
    await says({ size: 0 }).toThrow(/five at least/)
    await says({ size: 1e6 }).toThrow(/2000 at most/)
    await says({ sure: 94 }).toThrow(/90, 95 or 99/)
    await says({ kind: 'sequential', poor: 0.9 }).toThrow(/must not pass/)
    await expect(beginFitCheck(t.tam, id, PLAN)).rejects.toThrow(/coordinators/)
    expect((await page(id)).check).toBeNull()
    const checkId = await beginFitCheck(t.ines, id, { ...PLAN, size: 5 })
    const inIt = new Set((await t.app('fit_sample').where({ check_id: checkId }).select('person_id')).map((s) => s.person_id))
    const other = (await t.app('person').where({ state: 'live' }).select('id')).find((p) => !inIt.has(p.id))
    await expect(judgeFit(t.ines, checkId, other?.id, { verdict: 'fits' })).rejects.toThrow(/not in this sample/)
    await expect(judgeFit(t.ines, checkId, [...inIt][0], { verdict: 'does not' })).rejects.toThrow(/Say why/)
    await expect(judgeFit(t.ines, 999_999, [...inIt][0], { verdict: 'fits' })).rejects.toThrow(/no such check/)
    await releaseRound(t.ines, id)
    await expect(beginFitCheck(t.ines, id, PLAN)).rejects.toThrow(/is released/)
    expect(await fitPatterns(t.ines, id)).toEqual([])
    await closeRound(t.ines, id)
  })

  test('two samples drawn at once leave one that is open, and its verdicts can be told apart', async () => {
    const { round: id } = await round()
    const twice = await Promise.all([beginFitCheck(t.ines, id, PLAN), beginFitCheck(t.ines, id, PLAN)])
    expect(new Set(twice).size).toBe(2)
    expect(await t.app('fit_check').where({ round_id: id }).whereNull('ended_at')).toHaveLength(1)
    const older = Math.min(...twice)
    const [{ person_id: somebody }] = await t.app('fit_sample').where({ check_id: older }).limit(1).select('person_id')
    await expect(judgeFit(t.ines, older, somebody, { verdict: 'fits' })).rejects.toThrow(/has ended/)
  })
})
