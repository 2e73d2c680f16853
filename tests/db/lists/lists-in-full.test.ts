import { parse } from 'csv-parse/sync'
import { describe, expect, test } from 'vitest'
import type { Criterion } from '@/core/criteria/registry'
import { type Line, lineText } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import { moreLike } from '@/usecases/lists/more-like'
import { recordsCsv } from '@/usecases/directory/export-records'
import { STARTING_LISTS } from '@/core/lists/starting'
import { compareEditionsOf, editionIndex } from '@/usecases/lists/compare-editions'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { openList } from '@/usecases/lists/open-list'
import { listIndex } from '@/usecases/lists/list-index'
import { releaseRound } from '@/usecases/rounds/release-round'
import { pinClock } from '@/runtime/clock'
import { roleWordings } from '@/usecases/lists/role-wordings'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { broughtIn } from '../../support/database'
import { latestEdition } from '@/db/lists/list-rows'
import { runUndo } from '@/usecases/intake/run-undo'
import { profileList } from '@/usecases/lists/profile-list'
import { deleteList } from '@/usecases/lists/delete-list'
import { archiveList } from '@/usecases/lists/archive-list'
import { pinList } from '@/usecases/lists/pin-list'
import { labelList } from '@/usecases/lists/label-list'
import { takeInHand } from '@/usecases/lists/take-in-hand'
import { putOnList } from '@/usecases/lists/put-on-list'
import { keepWording } from '@/usecases/lists/keep-wording'
import { goBackTo } from '@/usecases/lists/go-back-to'
import { requalifyList } from '@/usecases/rounds/requalify-list'
import { startRound } from '@/usecases/rounds/start-round'
import { closeRound } from '@/usecases/rounds/close-round'
import { givenThreeSubjects, t, start, keep, premisesIn, names, unknown } from './three-subjects'

givenThreeSubjects()

describe('lists of organisations and of premises', () => {
  test('are accounts like any other, with the fields that files bring', async () => {
    expect(await names([start('organisation')])).toEqual(['North School', 'Sedge Brewery'])
    expect(await names([start('organisation'), keep({ kind: 'legal-kind', any: ['public body'] })])).toEqual(['North School'])
    expect(await names([start('organisation'), keep({ kind: 'founded', least: 1900, most: 1950 })])).toEqual(['North School'])
    expect(await names([start('organisation'), keep({ kind: 'roof-area', least: 1000, most: null })])).toEqual(['North School'])
    expect(await names([start('premises'), keep({ kind: 'equity', as: 'equity', least: 40, most: null })])).toEqual([
      'Lock House',
      'North School',
    ])
    expect(await unknown([start('premises'), keep({ kind: 'equity', as: 'loan-to-value', least: null, most: 60 })])).toEqual([
      '7 Mill Lane',
    ])
    expect(await names([start('premises'), keep({ kind: 'owner-lives', any: ['there'] })])).toEqual(['7 Mill Lane', 'North School'])
    expect(await names([start('premises'), keep({ kind: 'holdings', least: 2, most: null, months: null })])).toEqual([
      '7 Mill Lane',
      'Lock House',
    ])
  })

  test('people are asked about their organisation, their place, their time in the role', async () => {
    expect(await names([start(), keep({ kind: 'counted', least: 50, most: null })])).toEqual(['Maud Ellery', 'Tomas Pike'])
    expect(await names([start(), keep({ kind: 'in-role', least: 24, most: null, from: null, to: null })])).toEqual(['Maud Ellery'])
    expect(await names([start(), keep({ kind: 'languages', any: ['welsh'] })])).toEqual(['Maud Ellery'])
    expect(await names([start(), keep({ kind: 'near', metres: 200, lat: 55.3, lon: 1.5, name: '' })])).toEqual(
      ['Maud Ellery', 'Tomas Pike', 'Priya Rao'].sort((a, b) => a.split(' ')[1].localeCompare(b.split(' ')[1])),
    )
    expect(await names([start(), keep({ kind: 'street', streets: [{ street: 'mill ln', from: 5, to: null, side: 'odd' }] })])).toEqual([
      'Ida Owens',
    ])
  })

  test('one names a list of another subject, and only one it can', async () => {
    const schools = await createList(t.ines, 'Public bodies', true, [
      start('organisation'),
      keep({ kind: 'legal-kind', any: ['public body'] }),
    ])
    const owned = await createList(t.ines, 'Owned there', true, [start('premises'), keep({ kind: 'owner-lives', any: ['there'] })])
    const at = (list: number, how: 'works at' | 'owns' | 'neighbours' | 'occupies', role: string[] = []): Criterion => ({
      kind: 'related',
      how,
      list: { id: list, name: 'x' },
      role,
      metres: how === 'neighbours' ? 300 : null,
    })
    expect(await names([start(), keep(at(schools, 'works at'))])).toEqual(['Maud Ellery', 'Tomas Pike'])
    expect(await names([start(), keep(at(schools, 'works at', ['estates']))])).toEqual(['Maud Ellery'])
    expect(await names([start(), keep(at(owned, 'owns'))])).toEqual(['Ida Owens'])
    expect(await names([start(), keep(at(owned, 'neighbours'))])).toEqual(['Priya Rao'])
    expect(await names([start('organisation'), keep(at(owned, 'owns'))])).toEqual(['North School'])
    await expect(createList(t.ines, 'Wrong', true, [start(), keep(at(schools, 'owns'))])).rejects.toThrow(
      'is a list of organisations; the line asks for one of premises',
    )
    await expect(createList(t.ines, 'Wrong', true, [start('premises'), keep({ kind: 'role', any: ['x'] })])).rejects.toThrow(
      'a list of premises cannot ask “Role wording”',
    )
    // What a line names cannot be deleted under it.
    const people = await createList(t.ines, 'People of public bodies', true, [start(), keep(at(schools, 'works at'))])
    await expect(deleteList(t.ines, schools)).rejects.toThrow('People of public bodies')
    await deleteList(t.ines, people)
    // Neither can one whose last round a question about changes goes back to.
    const since = {
      kind: 'changed' as const,
      asks: [],
      kinds: [],
      days: null,
      since: { id: schools, name: 'x' },
      by: 'learned' as const,
      least: 1,
      state: 'any' as const,
    }
    const news = await createList(t.ines, 'News since then', true, [start(), keep(since)])
    await expect(deleteList(t.ines, schools)).rejects.toThrow('News since then')
    await deleteList(t.ines, news)
    await deleteList(t.ines, schools)
  })

  test('a list keeps its subject, and a round goes to people or to premises', async () => {
    const id = await createList(t.ines, 'Buildings', true, [start('premises')])
    await expect(saveEdition(t.ines, id, 1, [start()])).rejects.toThrow('This is a list of premises and stays one.')
    const organisations = await createList(t.ines, 'Houses of people', true, [start('organisation')])
    await expect(startRound(t.ines, organisations)).rejects.toThrow('A round goes to people or to premises')
    await takeInHand(t.ines, id)
    await expect(putOnList(t.ines, 'in', { of: 'person', ids: [1] })).rejects.toThrow('is of premises: people cannot be put on it')
  })

  test('organisations and premises go on the list in hand that is of them: chosen, found, or from another list', async () => {
    const id = await createList(t.ines, 'Buildings in hand', true, [start('premises'), keep({ kind: 'premises-kind', any: ['brewery'] })])
    await takeInHand(t.ines, id)
    await putOnList(t.ines, 'in', { of: 'premises', find: 'lock house' })
    const all = await createList(t.ines, 'All buildings', true, [start('premises')])
    const schools = [start('premises'), keep({ kind: 'premises-kind', any: ['school'] })]
    await putOnList(t.ines, 'in', { list: all, lines: schools, view: { tab: 'out' } })
    const draft = async () => (await openList(t.ines, id)).draft?.lines ?? []
    expect((await draft()).map((line) => lineText(line, 'premises'))).toEqual([
      'Start with all premises in the directory',
      'Keep premises are a brewery',
      'Pick in Lock House · found in the directory: lock house',
      expect.stringMatching(/^Pick in .+ · from “All buildings”, left out$/),
    ])
    expect((await names(await draft())).sort()).toEqual(['7 Mill Lane', 'Lock House', 'Sedge Brewery'])
    await expect(putOnList(t.ines, 'in', { of: 'organisation', find: 'school' })).rejects.toThrow(
      'is of premises: organisations cannot be put on it',
    )
    await expect(putOnList(t.ines, 'in', { of: 'premises', find: 'no such house' })).rejects.toThrow('Nothing was chosen')
    const organisations = await createList(t.ines, 'Firms in hand', true, [
      start('organisation'),
      keep({ kind: 'legal-kind', any: ['charity'] }),
    ])
    await takeInHand(t.ines, organisations)
    expect(await putOnList(t.ines, 'in', { of: 'organisation', find: 'brew' })).toMatchObject({ count: 1 })
    expect(await names((await openList(t.ines, organisations)).draft?.lines ?? [])).toEqual(['Sedge Brewery'])
  })

  test('they go out as CSV with all that every team has of them, and the reason of each', async () => {
    const lines = [start('premises'), keep({ kind: 'value', least: 300_000, most: null })]
    const id = await createList(t.ines, 'Worth it', true, lines)
    const csv = async (view: ListView, of = lines) => {
      const { name, pieces } = await recordsCsv(t.ines, { list: id, lines: of, view })
      let text = ''
      for await (const piece of pieces) text += piece
      const rows: Record<string, string>[] = parse(text, { columns: true, bom: true })
      return { name, rows }
    }
    const on = await csv({ tab: 'on' })
    expect(on.name).toBe('worth-it-on-the-list.csv')
    expect(on.rows.find((row) => row.Name === 'North School')).toMatchObject({
      Kind: 'school',
      'Roof area (m²)': '1200',
      Latitude: '55.3',
      Owner: 'North School',
      Value: '400000',
      Reason: 'On the list',
    })
    expect((await csv({ tab: 'unknown' })).rows.map((row) => [row.Name, row.Reason])).toEqual([['7 Mill Lane', 'Unknown by line 2']])
    const firms = await csv({ tab: 'on' }, [start('organisation')])
    expect(firms.rows.find((row) => row.Name === 'North School')).toMatchObject({ Kind: 'public body', Founded: '1904' })
  })

  test('undoing a file takes back what it told of organisations and premises', async () => {
    const again = await premisesIn(
      'later.csv',
      'Id,Building,Street,Town,Postcode,Value,Loan on it\nB3,7 Mill Lane,7 Mill Lane,Thornmouth,PW1 2AB,300000,30000\n',
    )
    const facts = await broughtIn(
      t.ines,
      'facts.csv',
      'Id,First name,Last name,Organisation,Organisation: kind,Organisation: growth in a year; %\nP3,Priya,Rao,Sedge Brewery,co-operative,\n',
    )
    expect(await names([start('premises'), keep({ kind: 'equity', as: 'equity', least: 90, most: 90 })])).toEqual(['7 Mill Lane'])
    expect(await names([start('organisation'), keep({ kind: 'legal-kind', any: ['co-operative'] })])).toEqual(['Sedge Brewery'])
    for (const id of [again, facts]) {
      await undoBatch(t.ines, id)
      await runUndo(id)
    }
    expect(await names([start('premises'), keep({ kind: 'equity', as: 'equity', least: 90, most: 90 })])).toEqual([])
    expect(await names([start('organisation'), keep({ kind: 'legal-kind', any: ['company'] })])).toEqual(['Sedge Brewery'])
  })
})

describe('help to get there', () => {
  test('a list beside the directory, and those most like it', async () => {
    const lines = [start(), keep({ kind: 'legal-kind', any: ['public body'] })]
    const { total, baseTotal, facets } = await profileList(t.ines, { lines })
    expect([total, baseTotal]).toEqual([2, 4])
    expect(facets.find((f) => f.key === 'roof')?.rows.find((r) => r.label === '1,000 to 2,499 m²')).toMatchObject({
      count: 2,
      base: 2,
      share: 1,
      baseShare: 0.5,
      lift: 2,
    })
    const { examples, page } = await moreLike(t.ines, { lines })
    expect([examples, page.total, page.records.map((r) => r.title).includes('Maud Ellery')]).toEqual([2, 2, false])
    expect(page.records[0].because?.detail).toMatch(/[+−]\d/)
  })
  test('wordings of a role are the team’s; a line keeps the words it took', async () => {
    const kept = await keepWording(t.tam, { name: 'Head of estates', says: ['head of estates', 'estates lead'], butNot: ['deputy'] })
    await keepWording(t.ines, { name: 'head of ESTATES', says: ['head of estates'], butNot: [] })
    expect(await roleWordings(t.ines)).toEqual([{ id: kept.id, name: 'head of ESTATES', says: ['head of estates'], butNot: [] }])
    const lines = [start(), keep({ kind: 'role', any: kept.says, not: kept.butNot, named: { id: kept.id, name: kept.name } })]
    const id = await createList(t.ines, 'Heads', true, lines)
    expect((await latestEdition(id)).lines[1]).toMatchObject({ criterion: { any: ['head of estates', 'estates lead'], not: ['deputy'] } })
    expect(await names(lines)).toEqual(['Maud Ellery'])
    await expect(keepWording(t.ines, { name: ' ', says: ['x'], butNot: [] })).rejects.toThrow('Give the wording a name')
  })
})

test('a limit by best fit goes by the list it names, which cannot be deleted under it', async () => {
  const good = await createList(t.ines, 'Good ones', true, [start(), keep({ kind: 'role', any: ['estates'] })])
  const limit: Line = { id: 'l', verb: 'limit', off: false, most: 1, per: 'all', rank: 'best fit', like: { id: good, name: 'Good ones' } }
  expect(await names([start(), limit])).toEqual(['Maud Ellery'])
  const best = await createList(t.ines, 'The best', true, [start(), limit])
  await expect(deleteList(t.ines, good)).rejects.toThrow(/“The best” names this list/)
  const buildings = await createList(t.ines, 'Only buildings', true, [start('premises')])
  await expect(saveEdition(t.ines, best, 1, [start(), { ...limit, like: { id: buildings, name: 'Only buildings' } }])).rejects.toThrow(
    /is a list of premises; the line asks for one of people/,
  )
  await deleteList(t.ines, best)
})

describe('editions and shelves', () => {
  test('an edition says why it was saved, and one can go back to any', async () => {
    const id = await createList(t.ines, 'With a history', true, [start()])
    await saveEdition(t.ines, id, 1, [start(), keep({ kind: 'role', any: ['bursar'] })], { why: 'only bursars' })
    expect(await goBackTo(t.ines, id, 1)).toBe(3)
    expect((await editionIndex(t.ines, id)).editions.map((e) => [e.number, e.why])).toEqual([
      [3, 'back to edition 1'],
      [2, 'only bursars'],
      [1, null],
    ])
    expect((await latestEdition(id)).lines).toEqual([start()])
    await expect(goBackTo(t.ines, id, 9)).rejects.toThrow('There is no edition 9')
  })
  test('editions of premises are compared by premises', async () => {
    const id = await createList(t.ines, 'Roofs', true, [start('premises'), keep({ kind: 'roof-area', least: 1000, most: null })])
    await saveEdition(t.ines, id, 1, [start('premises'), keep({ kind: 'roof-area', least: 900, most: null })])
    const { page } = await compareEditionsOf(t.ines, id, 1, 2, 'joined')
    expect(page.records.map((r) => r.title)).toEqual(['Sedge Brewery'])
  })
  test('a list that a round used is archived and not deleted; labels and the top are kept', async () => {
    const id = await createList(t.ines, 'Used once', true, [start()])
    const round = await startRound(t.ines, id)
    await expect(archiveList(t.ines, id, true)).rejects.toThrow('Round 1 of this list is not closed')
    await releaseRound(t.ines, round)
    await closeRound(t.ines, round)
    await expect(deleteList(t.ines, id)).rejects.toThrow('Round 1 went out to this list, so it stays: archive it instead')
    await archiveList(t.ines, id, true)
    await pinList(t.tam, id, true)
    await labelList(t.ines, id, ['spring', ' Spring ', 'roofs'])
    expect((await listIndex(t.tam))[0]).toMatchObject({ name: 'Used once', archived: true, pinned: true, labels: ['Spring', 'roofs'] })
    expect((await listIndex(t.ines)).find((l) => l.id === id)?.pinned).toBe(false)
    // What names it goes on.
    expect(await names([start(), keep({ kind: 'list', list: { id, name: 'Used once' }, edition: null })])).toHaveLength(4)
    await expect(labelList(t.tam, id, ['mine'])).rejects.toThrow('Only its owner')
    await archiveList(t.ines, id, false)
  })
  test('every list to begin with is whole, of our own words, and can be worked out', async () => {
    for (const { name, lines } of STARTING_LISTS) {
      const id = await createList(t.ines, name, false, lines)
      expect((await latestEdition(id)).balance, name).not.toBeNull()
    }
  })
})

test('who leaves because their organisation changed is told from what to what', async () => {
  const id = await createList(t.ines, 'By kind in law', true, [
    start(),
    keep({ kind: 'legal-kind', any: ['public body'] }),
    keep({ kind: 'industry', any: ['school', 'clinic'] }),
  ])
  await t.app('organisation').where({ name: 'North School' }).update({ industry: 'school' })
  const round = await startRound(t.ines, id)
  await releaseRound(t.ines, round)
  await closeRound(t.ines, round)
  pinClock(new Date('2026-06-20T09:00:00Z'))
  await broughtIn(t.ines, 'kind.csv', 'Id,First name,Last name,Organisation,Organisation: kind\nP1,Maud,Ellery,North School,charity\n')
  const { page } = await requalifyList(t.ines, id, { account: 'listed', tab: 'left' })
  expect(page.people.map((p) => [p.name, p.because?.title])).toEqual([
    ['Maud Ellery', 'Organisation: kind: public body → charity'],
    ['Tomas Pike', 'Organisation: kind: public body → charity'],
  ])
})
