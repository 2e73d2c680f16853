import { hashPassword, verifyPassword } from 'better-auth/crypto'
import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { createList } from '@/usecases/lists/create-list'
import { openList } from '@/usecases/lists/open-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { subscribeNews } from '@/usecases/team/news'
import { shareList } from '@/usecases/lists/share-list'
import { markOf, noteTry } from '@/usecases/team/sign-in-attempts'
import { team } from '@/usecases/team/team'
import { freshDatabase, type TestDatabase } from '../../support/database'
import { succeeded } from '@/db/team/sign-in-attempts'
import { handOver } from '@/usecases/lists/hand-over'
import { teamPage } from '@/usecases/team/team-page'
import { addColleague } from '@/usecases/team/add-colleague'
import { changeColleague } from '@/usecases/team/change-colleague'
import { newPasswordFor } from '@/usecases/team/new-password-for'
import { removeColleague } from '@/usecases/team/remove-colleague'
import { takeBackColleague } from '@/usecases/team/take-back-colleague'

/** Who may sign in, how often it may be tried, and what holds at once. */

let t: TestDatabase
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const session = (userId: string, token: string) => t.app('session').insert({ userId, token, expiresAt: new Date(Date.now() + 86_400_000) })

beforeAll(async () => {
  t = await freshDatabase()
})

const MAUD = 'maud@brackenfold.example'
const tries = async (n: number, work: () => Promise<unknown>) =>
  (await Promise.allSettled(Array.from({ length: n }, work))).filter((r) => r.status === 'fulfilled').length

test('of many tries at once no more get through than of as many one after the other', async () => {
  expect(await tries(30, () => noteTry(MAUD, { address: null }))).toBe(8)
  await expect(noteTry('Maud@brackenfold.example ', { address: '192.0.2.7' })).rejects.toThrow(/Wait 15 minutes/)
  expect(JSON.stringify(await t.app('sign_in_failure'))).not.toMatch(/maud/i)
})

test('whoever is tried for from elsewhere still gets in with the browser they know, and that has a limit of its own', async () => {
  const mark = markOf(MAUD)
  expect(await tries(20, () => noteTry(MAUD, { address: null, mark }))).toBe(8)
  expect(await tries(2, () => noteTry(MAUD, { address: null, mark: markOf(MAUD) }))).toBe(2)
  // A mark of somebody else, or a made-up one, is none.
  await expect(noteTry(MAUD, { address: null, mark: markOf('tomas@brackenfold.example') })).rejects.toThrow(/Wait/)
  await expect(noteTry(MAUD, { address: null, mark: `${mark.slice(0, -1)}${mark.endsWith('0') ? '1' : '0'}` })).rejects.toThrow(/Wait/)
  await noteTry('tomas@brackenfold.example', { address: null })
})

test('a right password takes back its own try alone; one address is limited over all emails, and one that is not known is not', async () => {
  const tried = await noteTry('one@brackenfold.example', { address: null })
  await succeeded(tried)
  expect(await tries(20, () => noteTry('one@brackenfold.example', { address: null }))).toBe(8)
  let n = 0
  expect(await tries(60, () => noteTry(`spray${n++}@brackenfold.example`, { address: '192.0.2.9' }))).toBe(40)
  expect(await tries(60, () => noteTry(`none${n++}@brackenfold.example`, { address: null }))).toBe(60)
})

test('managers add, change and remove people, and nobody else', async () => {
  for (const who of [t.ines, t.tam]) {
    await expect(addColleague(who, { name: 'New One', email: 'new@brackenfold.example', post: 'caller' })).rejects.toThrow(/Only managers/)
    await expect(changeColleague(who, t.tam.id, { name: 'Tam', email: 'tam@brackenfold.example', post: 'manager' })).rejects.toThrow(
      /Only managers/,
    )
    await expect(newPasswordFor(who, t.marek.id)).rejects.toThrow(/Only managers/)
    await expect(removeColleague(who, t.marek.id)).rejects.toThrow(/Only managers/)
    expect((await teamPage(who)).colleagues.filter((c) => c.email !== null).map((c) => c.id)).toEqual([who.id])
  }
  const { id, password } = await addColleague(t.marek, { name: ' Nora  Quill ', email: 'Nora@Brackenfold.example', post: 'caller' })
  const { password: hash } = await t.owner('account').where({ userId: id }).first('password')
  expect(await verifyPassword({ hash, password })).toBe(true)
  expect(JSON.stringify(await t.owner('user').where({ id }))).not.toContain(password)
  await expect(addColleague(t.marek, { name: 'Other', email: 'nora@brackenfold.example', post: 'caller' })).rejects.toThrow(
    /Nora Quill already signs in with this/,
  )
  for (const wrong of [
    null,
    {},
    { name: '', email: 'x@y.example', post: 'caller' },
    { name: 'X', email: 'none', post: 'caller' },
    { name: 'X', email: 'x@y.example', post: 'owner' },
    'text',
    7,
  ])
    await expect(addColleague(t.marek, wrong)).rejects.toThrow(/Enter|Give|not complete|post|must be a/)
  await changeColleague(t.marek, id, { name: 'Nora Quill', email: 'nora@brackenfold.example', post: 'coordinator' })
  expect((await teamPage(t.marek)).colleagues.find((c) => c.id === id)).toMatchObject({
    post: 'coordinator',
    email: 'nora@brackenfold.example',
  })
})

test('the team keeps a manager, also when two step down at once', async () => {
  const { id } = await addColleague(t.marek, { name: 'Second Manager', email: 'second@brackenfold.example', post: 'manager' })
  const down = (who: string, name: string, email: string) => changeColleague(t.marek, who, { name, email, post: 'caller' })
  const ends = await Promise.allSettled([
    down(id, 'Second Manager', 'second@brackenfold.example'),
    down(t.marek.id, 'Marek Dunn', 'marek@brackenfold.example'),
  ])
  expect(ends.map((e) => e.status).sort()).toEqual(['fulfilled', 'rejected'])
  await t.owner('user').where({ id: t.marek.id }).update({ post: 'manager' })
  await t.owner('user').where({ id }).update({ post: 'caller' })
  await expect(removeColleague(t.marek, t.marek.id)).rejects.toThrow(/Ask another manager/)
})

test('who is removed is signed out at once, signs in no more, and leaves their lists to who removed them', async () => {
  const { id } = await addColleague(t.marek, { name: 'Leaving Soon', email: 'leaving@brackenfold.example', post: 'coordinator' })
  const leaving = { id, name: 'Leaving Soon', post: 'coordinator' as const }
  const list = await createList(leaving, 'Left behind', false, [start])
  await shareList(leaving, list, { team: null, members: [{ id: t.tam.id, role: 'see' }] })
  await session(id, 'leaving-1')
  let looked = 0
  const close = subscribeNews(
    leaving,
    () => {},
    () => looked++,
  )
  await new Promise((resolve) => setTimeout(resolve, 500))

  expect(await removeColleague(t.marek, id)).toEqual({ lists: 1 })
  for (let i = 0; i < 100 && looked === 0; i++) await new Promise((resolve) => setTimeout(resolve, 50))
  close()
  expect(looked).toBeGreaterThan(0)
  expect(await t.app('session').where({ userId: id })).toEqual([])
  // A sign-in that was under way when they were removed comes too late.
  await expect(session(id, 'leaving-2')).rejects.toThrow(/has left/)
  expect((await openList(t.marek, list)).mine).toBe(true)
  expect((await openList(t.tam, list)).role).toBe('see')
  expect((await team(t.ines)).some((p) => p.id === id)).toBe(false)
  expect((await t.app('user').where({ id }).first('name')).name).toBe('Leaving Soon')
  await expect(shareList(t.marek, list, { team: null, members: [{ id, role: 'see' }] })).rejects.toThrow(/no longer on the team/)
  await expect(handOver(t.marek, list, id)).rejects.toThrow(/who gets the list/)
  await expect(newPasswordFor(t.marek, id)).rejects.toThrow(/not on the team/)
  await expect(addColleague(t.marek, { name: 'Again', email: 'leaving@brackenfold.example', post: 'caller' })).rejects.toThrow(
    /who was removed, has this/,
  )
})

test('another post, a sign-out and a new password are told to what is open', async () => {
  const { id } = await addColleague(t.marek, { name: 'Open Page', email: 'open@brackenfold.example', post: 'caller' })
  let looked = 0
  const close = subscribeNews(
    { id, name: 'Open Page', post: 'caller' },
    () => {},
    () => looked++,
  )
  const told = async () => {
    const before = looked
    return async () => {
      for (let i = 0; i < 100 && looked === before; i++) await new Promise((resolve) => setTimeout(resolve, 50))
      expect(looked).toBeGreaterThan(before)
    }
  }
  await new Promise((resolve) => setTimeout(resolve, 500))
  let heard = await told()
  await changeColleague(t.marek, id, { name: 'Open Page', email: 'open@brackenfold.example', post: 'coordinator' })
  await heard()
  await session(id, 'open-1')
  heard = await told()
  await t.app('session').where({ token: 'open-1' }).delete()
  await heard()
  await session(id, 'open-2')
  heard = await told()
  const { password } = await newPasswordFor(t.marek, id)
  await heard()
  expect(await verifyPassword({ hash: (await t.owner('account').where({ userId: id }).first('password')).password, password })).toBe(true)
  expect(await hashPassword(password)).not.toContain(password)
  close()
})

test('who was removed can be taken back, with another password, and finds their name in what they did', async () => {
  const { id } = await addColleague(t.marek, { name: 'Back Again', email: 'back@brackenfold.example', post: 'coordinator' })
  const list = await createList({ id, name: 'Back Again', post: 'coordinator' }, 'Kept by Marek', false, [start])
  await removeColleague(t.marek, id)
  expect((await teamPage(t.marek)).left).toContainEqual(expect.objectContaining({ id, name: 'Back Again' }))
  expect((await teamPage(t.ines)).left).toEqual([])
  await expect(takeBackColleague(t.ines, id)).rejects.toThrow(/Only managers/)
  const ends = await Promise.allSettled([takeBackColleague(t.marek, id), takeBackColleague(t.marek, id)])
  expect(ends.map((e) => e.status).sort()).toEqual(['fulfilled', 'rejected'])
  const { password } = (ends.find((e) => e.status === 'fulfilled') as PromiseFulfilledResult<{ password: string }>).value
  expect(await t.owner('account').where({ userId: id }).count('id as n').first()).toEqual({ n: 1 })
  expect(await verifyPassword({ hash: (await t.owner('account').where({ userId: id }).first('password')).password, password })).toBe(true)
  await session(id, 'back-1')
  expect((await openList(t.marek, list)).mine).toBe(true)
  await handOver(t.marek, list, id)
  expect((await openList({ id, name: 'Back Again', post: 'coordinator' }, list)).mine).toBe(true)
})

test('a list that is handed to somebody, or made by them, while they are removed is left with nobody', async () => {
  const { id } = await addColleague(t.marek, { name: 'Just Leaving', email: 'just@brackenfold.example', post: 'coordinator' })
  const list = await createList(t.ines, 'On its way', false, [start])
  const removing = await t.app.transaction()
  await removing('user').where({ id }).forUpdate().first('id')
  await removing('user').where({ id }).update({ left_at: new Date() })
  const late = Promise.allSettled([
    handOver(t.ines, list, id),
    createList({ id, name: 'Just Leaving', post: 'coordinator' }, 'Too late', false, [start]),
  ])
  await new Promise((resolve) => setTimeout(resolve, 300))
  await removing.commit()
  expect((await late).map((end) => end.status)).toEqual(['rejected', 'rejected'])
  expect((await openList(t.ines, list)).mine).toBe(true)
  expect(await t.app('list').where({ owner_id: id })).toEqual([])
})

test('lists are shared, handed over and saved while their owner is removed, and nobody waits in a circle', async () => {
  for (let round = 0; round < 6; round++) {
    const { id } = await addColleague(t.marek, { name: 'Owner Of Many', email: `many-${round}@brackenfold.example`, post: 'coordinator' })
    const owner = { id, name: 'Owner Of Many', post: 'coordinator' as const }
    const lists = await Promise.all(Array.from({ length: 4 }, (_, i) => createList(owner, `Many ${round} ${i}`, true, [start])))
    const naming = {
      id: 'n',
      verb: 'drop',
      off: false,
      criterion: { kind: 'list', list: { id: lists[0], name: 'x' }, edition: null },
    } as Line
    const ends = await Promise.allSettled([
      removeColleague(t.marek, id),
      ...lists.flatMap((list, i) => [
        shareList(owner, list, { team: 'use', members: [] }),
        ...(i > 0 ? [saveEdition(owner, list, 1, [start, naming])] : []),
      ]),
    ])
    const broke = ends.flatMap((end) =>
      end.status === 'rejected' && (end.reason as { code?: string }).code ? [(end.reason as { code?: string }).code] : [],
    )
    expect(broke).toEqual([])
    expect(await t.app('list').where({ owner_id: id })).toEqual([])
  }
})
