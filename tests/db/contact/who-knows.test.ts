import { beforeAll, describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { answerIntroduction, askIntroduction, takeBackIntroduction } from '@/usecases/contact/introductions'
import { addPost, myPosts, removePost } from '@/usecases/contact/own-posts'
import { recordContact } from '@/usecases/contact/record-contact'
import { acquaint, sayKnown } from '@/usecases/contact/say-known'
import { whoKnows } from '@/usecases/contact/who-knows'
import { erasePerson } from '@/usecases/directory/erase-person'
import { mergePeople } from '@/usecases/directory/merge-people'
import { openPerson } from '@/usecases/directory/open-person'
import { removeColleague } from '@/usecases/team/remove-colleague'
import { todayPage } from '@/usecases/team/today'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
const id = async (name: string): Promise<number> => (await t.app('person').where({ name, state: 'live' }).first('id')).id

beforeAll(async () => {
  t = await freshDatabase('2026-03-01T09:00:00Z')
  await startEngine(t)
  await broughtIn(
    t.ines,
    'march.csv',
    'Id,Name,Role,Organisation,Email\nK1,Basil Thorne,Head Brewer,Farrowbridge Brewery,basil@farrowbridge.example\nK2,Una Merrow,Estates lead,Hallow Clinic,una@hallow.example\nK3,Nils Askew,Caretaker,Weir School,nils@weir.example\nK4,Ulla Merrow,Estates lead,Hallow Clinic,ulla@hallow.example\n',
  )
  pinClock(new Date('2026-05-01T09:00:00Z'))
  await broughtIn(t.ines, 'may.csv', 'Id,Name,Organisation\nK1,Basil Thorne,Larch House\n')
  await bringChanges()
  pinClock(new Date('2026-06-15T09:00:00Z'))
})

describe('who knows somebody', () => {
  test('is told from contacts, what colleagues say, employers they share, and people outside, the closest first', async () => {
    const [basil, una] = [await id('Basil Thorne'), await id('Una Merrow')]
    expect(await whoKnows(t.ines, basil)).toMatchObject({ colleagues: [], outside: [], employers: [], introductions: [], own: null })
    await recordContact(t.tam, basil, { channel: 'email', result: 'sent', date: '2026-05-02' })
    await recordContact(t.tam, basil, { channel: 'phone', result: 'spoke', date: '2026-05-10' })
    await recordContact(t.tam, una, { channel: 'met', result: 'spoke', date: '2026-06-01' })
    await addPost(t.marek, { organisation: 'Farrowbridge Brewery', from: '2026-02-01', to: '2026-03-10' })
    await addPost(t.ines, { organisation: 'farrowbridge brewery', from: '2024-01-01', to: '2025-12-31' })
    await acquaint(t.ines, una, basil, 'worked with')
    const told = await whoKnows(t.ines, basil)
    expect(told.colleagues.map(({ name, ties }) => [name, ties.map(({ kind }) => kind)])).toEqual([
      ['Marek Dunn', ['shared employer']],
      ['Tam Reyes', ['spoke with', 'wrote to', 'through somebody']],
    ])
    // Whether he was there before he came into the directory is not known.
    expect(told.employers.map(({ name, organisation, overlap }) => [name, organisation, overlap])).toEqual([
      ['Marek Dunn', 'Farrowbridge Brewery', 'yes'],
      ['Ines Okafor', 'Farrowbridge Brewery', 'unknown'],
    ])
    expect(told.outside).toMatchObject([
      { name: 'Una Merrow', how: 'worked with', colleagues: [{ name: 'Tam Reyes', last: '2026-06-01' }] },
    ])
    await sayKnown(t.ines, basil, 'knows well')
    expect((await whoKnows(t.ines, basil)).own).toBe('knows well')
    expect((await whoKnows(t.tam, basil)).colleagues[0]).toMatchObject({ name: 'Ines Okafor', ties: [{ kind: 'knows well' }] })
    await sayKnown(t.ines, basil, null)
    expect((await whoKnows(t.ines, basil)).own).toBeNull()
    // The same pair said the other way round is one.
    await acquaint(t.tam, basil, una, 'met')
    expect((await whoKnows(t.tam, una)).outside).toMatchObject([{ name: 'Basil Thorne', how: 'met' }])
    expect(await t.app('acquaintance').whereNotNull('other_id').whereNull('ended_at')).toHaveLength(1)
    // Two who say it at once are both heard, and it is said once.
    await Promise.all([
      acquaint(t.tam, basil, una, 'knows well'),
      acquaint(t.ines, una, basil, 'knows well'),
      sayKnown(t.tam, una, 'met'),
      sayKnown(t.tam, una, 'met'),
    ])
    expect(await t.app('acquaintance').whereNull('ended_at')).toHaveLength(2)
    await sayKnown(t.tam, una, null)
  })

  test('is known of a record and of those merged into it, and nothing is left of whoever was erased', async () => {
    const [una, ulla, nils] = [await id('Una Merrow'), await id('Ulla Merrow'), await id('Nils Askew')]
    await acquaint(t.ines, ulla, nils, 'knows well')
    await sayKnown(t.tam, ulla, 'worked with')
    await mergePeople(t.ines, una, ulla)
    const told = await whoKnows(t.ines, una)
    expect(told.outside.map(({ name }) => name).sort()).toEqual(['Basil Thorne', 'Nils Askew'])
    expect(told.colleagues.find(({ name }) => name === 'Tam Reyes')?.ties[0].kind).toBe('worked with')
    expect((await whoKnows(t.ines, nils)).outside.map(({ name }) => name)).toEqual(['Una Merrow'])
    await askIntroduction(t.ines, { person: nils, of: t.tam.id, through: una, note: 'through Una Merrow, please' })
    await erasePerson({ ...t.ines, post: 'manager' }, una)
    expect((await whoKnows(t.ines, nils)).outside).toEqual([])
    expect((await whoKnows(t.ines, nils)).introductions[0]).toMatchObject({ through: null, note: expect.not.stringContaining('Merrow') })
    await expect(whoKnows(t.ines, una)).rejects.toThrow(/no such person/)
  })
})

describe('an introduction', () => {
  test('is asked for, stands on the colleague’s first page, and is an entry once it is answered', async () => {
    const basil = await id('Basil Thorne')
    const asked = await askIntroduction(t.ines, { person: basil, of: t.tam.id, note: 'about the brewery roof' })
    await expect(askIntroduction(t.ines, { person: basil, of: t.tam.id })).rejects.toThrow(/asked them already/)
    expect((await todayPage(t.tam)).moves.filter(({ group }) => group === 'introductions').map(({ text }) => text)).toContain(
      'Ines Okafor asks you to introduce them to Basil Thorne',
    )
    expect((await whoKnows(t.tam, basil)).introductions[0]).toMatchObject({ mine: 'to answer', note: 'about the brewery roof' })
    expect((await whoKnows(t.ines, basil)).introductions[0]).toMatchObject({ mine: 'asked' })
    await expect(answerIntroduction(t.ines, asked, true)).rejects.toThrow(/not asked/)
    await expect(takeBackIntroduction(t.tam, asked)).rejects.toThrow(/asked for no such/)
    const twice = await Promise.allSettled([answerIntroduction(t.tam, asked, true, 'on Friday'), answerIntroduction(t.tam, asked, false)])
    expect(twice.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
    const ledger = (await openPerson(t.ines, basil)).ledger.filter(({ kind }) => kind === 'introduction')
    expect(ledger).toHaveLength(1)
    expect(ledger[0].title).toMatch(/^Introduction (accepted|declined)$/)
    expect((await todayPage(t.tam)).moves.filter(({ key }) => key === `introduction ${asked}`)).toEqual([])
    // Asked once more, and taken back.
    const again = await askIntroduction(t.ines, { person: basil, of: t.tam.id })
    await takeBackIntroduction(t.ines, again)
    await expect(answerIntroduction(t.tam, again, true)).rejects.toThrow(/settled already/)
  })

  test('is refused where it cannot be, and says why', async () => {
    const basil = await id('Basil Thorne')
    const says = (input: object) => expect(askIntroduction(t.ines, { person: basil, of: t.tam.id, ...input })).rejects
    await says({ of: t.ines.id }).toThrow(/cannot introduce yourself/)
    await says({ of: 'nobody' }).toThrow(/no longer on the team/)
    await says({ person: 999_999 }).toThrow(/no longer in the directory/)
    await says({ through: 999_999 }).toThrow(/go through/)
    await says({ note: 'x'.repeat(1001) }).toThrow(/1,000 characters/)
    await expect(acquaint(t.ines, basil, basil, 'met')).rejects.toThrow(/themselves/)
    await expect(sayKnown(t.ines, basil, 'adores')).rejects.toThrow(/how they are known/)
  })
})

test('employers that a file brought as earlier ones are shared, too', async () => {
  await broughtIn(t.ines, 'cv.csv', 'Id,Name,Earlier employers\nK3,Nils Askew,Marsh Dairy; Larch House\n')
  await addPost(t.ines, { organisation: 'Marsh Dairy', from: '2019-01-01', to: '2020-01-01' })
  expect((await whoKnows(t.tam, await id('Nils Askew'))).employers).toMatchObject([
    { name: 'Ines Okafor', organisation: 'Marsh Dairy', overlap: 'unknown' },
  ])
})

describe('a colleague’s own posts', () => {
  test('are theirs to add and remove, and refused where a day is wrong', async () => {
    await expect(addPost(t.tam, { organisation: 'Weir School', from: '2024-05-01', to: '2023-05-01' })).rejects.toThrow(/before the first/)
    await expect(addPost(t.tam, { organisation: '', from: '2024-05-01' })).rejects.toThrow(/where you worked/)
    await expect(addPost(t.tam, { organisation: 'Weir School', from: 'May' })).rejects.toThrow(/as a date/)
    await addPost(t.tam, { organisation: ' Weir School ', from: '2024-05-01', to: '' })
    const [post] = await myPosts(t.tam)
    expect(post).toMatchObject({ organisation: 'Weir School', from: '2024-05-01', to: null })
    await expect(removePost(t.ines, post.id)).rejects.toThrow(/no such post/)
    await removePost(t.tam, post.id)
    expect(await myPosts(t.tam)).toEqual([])
  })
})

describe('somebody who leaves the team', () => {
  test('knows nobody any more, and what was asked of them ends', async () => {
    const nils = await id('Nils Askew')
    await recordContact(t.tam, nils, { channel: 'phone', result: 'spoke', date: '2026-06-10' })
    const { id: asked } = await t.app('introduction').where({ person_id: nils, state: 'asked' }).first('id')
    expect((await whoKnows(t.ines, nils)).colleagues.map(({ name }) => name)).toContain('Tam Reyes')
    await removeColleague(t.marek, t.tam.id)
    expect((await whoKnows(t.ines, nils)).colleagues.map(({ name }) => name)).not.toContain('Tam Reyes')
    expect((await t.app('introduction').where({ id: asked }).first('state')).state).toBe('taken back')
  })
})
