import { beforeAll, beforeEach, describe, expect, test } from 'vitest'
import type { FeedItem, FeedPage, FeedSource } from '@/core/changes/feed'
import { pinClock } from '@/runtime/clock'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { changesOf } from '@/usecases/changes/changes-of'
import { decideChange } from '@/usecases/changes/decide-change'
import { readFeed } from '@/usecases/changes/run-feed'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { runUndo } from '@/usecases/intake/run-undo'
import { SourceTrouble } from '@/sources/http-source'
import { openPerson } from '@/usecases/directory/open-person'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
const person = async (name: string): Promise<number> => (await t.app('person').where({ name, state: 'live' }).first('id')).id
const outcomes = async (feed: string) =>
  Object.fromEntries(
    (await t.app('feed_item').where({ feed }).groupBy('outcome').select('outcome').count('* as n')).map((r) => [r.outcome, Number(r.n)]),
  )

const marit = { person: 'Marit Ellingsgate', organisation: 'Wendleside Clinic', email: 'marit@wendleside.example' }
const item = (id: string, more: Partial<FeedItem> = {}): FeedItem => ({
  id,
  about: marit,
  happening: null,
  field: 'role',
  before: 'Facilities Manager',
  after: 'Head of Estates',
  day: '2026-06-10',
  stated: true,
  text: null,
  link: null,
  ...more,
})

/** A feed of these items, so many a page; its cursor is the number of the next. */
function feedOf(name: string, items: FeedItem[], most = 2): FeedSource & { items: FeedItem[] } {
  return {
    name,
    items,
    read: async (cursor): Promise<FeedPage> => {
      const from = Number(cursor ?? 0)
      return { items: items.slice(from, from + most), next: String(Math.min(items.length, from + most)), more: from + most < items.length }
    },
  }
}

beforeAll(async () => {
  t = await freshDatabase('2026-06-15T09:00:00Z')
  await startEngine(t)
  pinClock(new Date('2026-05-01T09:00:00Z'))
  await broughtIn(
    t.ines,
    'may.csv',
    Buffer.from(
      'Name,Role,Organisation,E-mail,Street,Town,Postcode\n' +
        'Marit Ellingsgate,Facilities Manager,Wendleside Clinic,marit@wendleside.example,,,\n' +
        'Nils Askew,Porter,Wendleside Clinic,nils@wendleside.example,,,\n' +
        'Ann Crake,Owner,Crake Barns,ann@crake.example,,,\n',
    ),
  )
  // Somebody else of the same name, at the same place.
  await t.owner.raw(
    `insert into person (given, family, name, name_key, sort_key, role, organisation_id, created_at)
     select given, family, name, name_key, sort_key, 'Bookkeeper', organisation_id, created_at from person where name = 'Ann Crake'`,
  )
})
beforeEach(() => pinClock(new Date('2026-06-15T09:00:00Z')))

describe('a feed', () => {
  test('is read page by page; a report changes nothing of the record until somebody confirms it', async () => {
    await readFeed(
      feedOf('wire', [
        item('1'),
        item('2', { field: null, happening: 'wrote', before: null, after: null, text: 'spoke of rain' }),
        item('3', { about: { organisation: 'Wendleside Clinic' }, field: null, happening: 'tender', before: null, after: null }),
      ]),
    )
    await bringChanges()
    expect(await outcomes('wire')).toEqual({ reported: 3 })
    const id = await person('Marit Ellingsgate')
    expect((await openPerson(t.ines, id)).view.role).toBe('Facilities Manager')
    const { rows } = await changesOf(t.ines, 'person', id)
    expect(rows.map((row) => [row.kind, row.after, row.by, row.sure, row.source]).sort()).toEqual([
      ['Another role', '2026-06-09', '2026-06-10', 'stated', 'wire'],
      ['Wrote or spoke in public', '2026-06-09', '2026-06-10', 'stated', 'wire'],
    ])
    const organisation = await t.app('organisation').where({ name: 'Wendleside Clinic' }).first('id')
    expect((await changesOf(t.ines, 'organisation', organisation.id)).rows.map((row) => row.kind)).toEqual(['Tender published'])
  })

  test('that sends everything again brings nothing twice', async () => {
    const before = await t.app('entry').count('* as n').first()
    await t.owner('feed').where({ name: 'wire' }).update({ cursor: null })
    await readFeed(
      feedOf('wire', [item('1'), item('2', { field: null, happening: 'wrote', before: null, after: null, text: 'spoke of rain' })]),
    )
    expect(await t.app('entry').count('* as n').first()).toEqual(before)
  })

  test('read by two at once brings everything once', async () => {
    const items = Array.from({ length: 9 }, (_, i) =>
      item(`t${i}`, { field: null, happening: 'permit', before: null, after: null, text: `permit ${i}` }),
    )
    await Promise.all([readFeed(feedOf('twice', items)), readFeed(feedOf('twice', items))])
    expect(await outcomes('twice')).toEqual({ reported: 9 })
  })

  test('that fails half-way goes on from where it was', async () => {
    const feed = feedOf(
      'broken',
      Array.from({ length: 6 }, (_, i) => item(`b${i}`, { field: null, happening: 'storm', before: null, after: null, text: `gale ${i}` })),
    )
    let reads = 0
    const broken: FeedSource = {
      ...feed,
      read: async (cursor) => {
        if (++reads === 2) throw new SourceTrouble('The source did not answer after 6 tries: it cannot be reached.')
        return feed.read(cursor)
      },
    }
    await expect(readFeed(broken)).rejects.toThrow(/did not answer/)
    expect(await t.app('feed').where({ name: 'broken' }).first('cursor', 'error')).toEqual({
      cursor: '2',
      error: 'The source did not answer after 6 tries: it cannot be reached.',
    })
    await readFeed(broken)
    expect(await outcomes('broken')).toEqual({ reported: 6 })
    expect((await t.app('feed').where({ name: 'broken' }).first('error')).error).toBeNull()
  })

  test('whose cursor leads nowhere, or back, ends', async () => {
    const stuck: FeedSource = { name: 'stuck', read: async () => ({ items: [], next: '0', more: true }) }
    await readFeed(stuck)
    let at = 0
    const back: FeedSource = { name: 'back', read: async () => ({ items: [item('k')], next: String(at++ % 2), more: at < 9 }) }
    await readFeed(back)
    expect(await outcomes('back')).toEqual({ reported: 1 })
  })

  test('a later fact that comes before an earlier one makes the same changes', async () => {
    const nils = { person: 'Nils Askew', organisation: 'Wendleside Clinic', email: null }
    const items = [
      item('n2', { about: nils, before: 'Site Manager', after: 'Head of Estates', day: '2026-06-12' }),
      item('n1', { about: nils, before: 'Porter', after: 'Site Manager', day: '2026-06-02' }),
    ]
    await readFeed(feedOf('order', items, 1))
    await bringChanges()
    const { rows } = await changesOf(t.ines, 'person', await person('Nils Askew'))
    expect(rows.map((row) => `${row.field?.before} → ${row.field?.after} ${row.by}`)).toEqual([
      'Site Manager → Head of Estates 2026-06-12',
      'Porter → Site Manager 2026-06-02',
    ])
  })

  test('what is about nobody here, does not tell whom, or cannot be read is accounted for, and nobody is taken for somebody else', async () => {
    await readFeed(
      feedOf('odd', [
        item('o1', { about: { person: 'Somebody Else', organisation: 'Wendleside Clinic', email: 'marit@wendleside.example' } }),
        item('o2', { about: { person: 'Ann Crake', organisation: 'Crake Barns', email: null } }),
        item('o3', { day: '2026-06-16' }),
        item('o4', { day: '2026-02-30' }),
        item('o5', { happening: 'eclipse', field: null }),
        item('o6', { about: { organisation: 'Wendleside Clinic' } }),
        item('o7', { after: ' ' }),
        item('o8', { field: null, happening: 'wrote', before: null, after: null, link: 'javascript:alert(1)' }),
      ]),
    )
    expect(await outcomes('odd')).toEqual({ 'nobody here': 1, 'in doubt': 1, refused: 6 })
    expect((await t.app('feed_item').where({ feed: 'odd', outcome: 'refused' }).pluck('why')).sort()).toEqual([
      'it does not say the new role',
      'it has no day',
      'it is dated in the future',
      'its link is none',
      'only people have roles and employers',
      'we know no “eclipse”',
    ])
  })
})

describe('somebody who left', () => {
  test('is confirmed once: the role and organisation go, the email there is closed, the person stays', async () => {
    const id = await person('Marit Ellingsgate')
    await readFeed(feedOf('left', [item('l1', { field: 'organisation', before: 'Wendleside Clinic', after: null, day: '2026-06-14' })]))
    await bringChanges()
    const [left] = (await changesOf(t.ines, 'person', id)).rows.filter((row) => row.kind === 'Left the organisation')
    expect(left.field).toEqual({ name: 'organisation', before: 'Wendleside Clinic', after: 'none' })
    const both = await Promise.allSettled([decideChange(t.ines, left.id, 'confirm'), decideChange(t.tam, left.id, 'confirm')])
    expect(both.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected'])
    const page = await openPerson(t.ines, id)
    expect([page.view.name, page.view.role, page.view.organisation]).toEqual(['Marit Ellingsgate', null, null])
    expect(page.addresses.find((a) => a.channel === 'email')?.suppressed).toMatch(/died or moved away/)
    await bringChanges()
    const rows = (await changesOf(t.ines, 'person', id)).rows
    expect(rows.filter((row) => row.field?.name === 'organisation').map((row) => [row.kind, row.state, row.sources])).toEqual([
      ['Left the organisation', 'handled', 2],
    ])
  })

  test('what is turned down leaves the record as it is', async () => {
    const id = await person('Nils Askew')
    const [change] = (await changesOf(t.ines, 'person', id)).rows
    await decideChange(t.ines, change.id, 'turn down')
    expect((await openPerson(t.ines, id)).view.role).toBe('Porter')
    await expect(decideChange(t.tam, change.id, 'confirm')).rejects.toThrow(/settled this already/)
  })

  test('a record that is withdrawn takes its changes with it', async () => {
    const batch = await t.app('batch').where({ file_name: 'may.csv' }).first('id')
    await undoBatch(t.ines, batch.id)
    await runUndo(batch.id)
    await bringChanges()
    const gone = await t.app('change').whereNotNull('gone_at').distinct('gone_why').pluck('gone_why')
    expect(gone).toEqual(['withdrawn'])
  })
})
