import { describe, expect, test } from 'vitest'
import { FIELD } from '@/core/clean/standard-fields'
import { newRule } from '@/core/screening/new-rule'
import { firstPolicy, type Rule } from '@/core/screening/rules'
import { pinClock } from '@/runtime/clock'
import { recordContact } from '@/usecases/contact/record-contact'
import { mergePeople } from '@/usecases/directory/merge-people'
import { openPerson } from '@/usecases/directory/open-person'
import { aboutRoundFiles } from '@/usecases/rounds/about-round-files'
import { checkContact } from '@/usecases/rounds/check-contact'
import { closeRound } from '@/usecases/rounds/close-round'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { screenRound } from '@/usecases/rounds/screen-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { startRound } from '@/usecases/rounds/start-round'
import { createList } from '@/usecases/lists/create-list'
import { audit } from '@/usecases/screening/audit'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { letThrough } from '@/usecases/screening/let-through'
import { takeBackLifting } from '@/usecases/screening/take-back-lifting'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn } from '../../support/database'
import { givenRounds, start, t } from './released-while'

givenRounds()

const HEAD = 'Id,Name,Email,Phone,Status\n'
let made = 0
/** People of a batch of their own and a round of them, being built. */
async function built(rows: string[], rules: Rule[] = firstPolicy()) {
  const k = ++made
  const batch = await broughtIn(t.ines, `moment-${k}.csv`, HEAD + rows.join('\n'))
  const people = await t.app('person').where({ batch_id: batch }).select('id', 'given')
  const list = await createList(t.ines, `Moment ${k}`, true, [{ ...start, batch: { id: batch, name: 'moment' } } as never])
  const round = await startRound(t.ines, list)
  await setRules(t.ines, round, rules)
  return { round, id: Object.fromEntries(people.map((p) => [p.given, p.id])) as Record<string, number> }
}
const STOP = { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a call' }

describe('a suppression that comes after the release', () => {
  test('takes whom it touches out of what is still to come, at once; the round tells it, and who has the file', async () => {
    const { round, id } = await built([
      'A1,Ann Moment,ann@moment.example,0113 496 0101,',
      'A2,Bea Moment,bea@moment.example,0113 496 0102,',
    ])
    await releaseRound(t.ines, round)
    await roundFile(t.tam, round, 'email').catch(() => null)
    await roundFile(t.ines, round, 'email')
    const before = (await openRound(t.ines, round)).toCome
    expect(before).toEqual({ open: 4, all: 4 })
    await suppress(t.tam, { person: id.Ann }, STOP)
    const page = await openRound(t.ines, round)
    expect(page.toCome).toEqual({ open: 2, all: 4 })
    expect(page.stopped.map(({ channel, people, takenBy }) => [channel, people, takenBy.map(({ name }) => name)]).sort()).toEqual([
      ['email', 1, expect.arrayContaining([t.ines.name])],
      ['phone', 1, []],
    ])
    const stopped = await screenRound(t.ines, round, { tab: 'stopped' })
    expect(stopped.page.people.map((p) => [p.name, p.because?.title])).toEqual([['Ann Moment', 'Stopped since the release']])
    expect(stopped.page.people[0].because?.detail).toContain('Asked us to stop')
    // The frozen account stays as it was.
    expect(stopped.figures.clear).toMatchObject({ email: 2, phone: 2 })
    expect((await openPerson(t.ines, id.Ann)).ledger.map((e) => e.kind)).toContain('not worked')
    expect(await checkContact(t.ines, round, id.Ann, 'email')).toMatchObject({ may: false, title: 'Asked us to stop' })
    expect(await checkContact(t.ines, round, id.Bea, 'email')).toEqual({ may: true, to: 'bea@moment.example' })
    await closeRound(t.ines, round)
    // What was stopped is not told again as not worked.
    const entries = await t.app('entry').where({ person_id: id.Ann, round_id: round, kind: 'not worked' })
    expect(entries).toHaveLength(2)
  })
  test('is heeded by the file that is downloaded after it; whoever takes it as it was released is named', async () => {
    const { round, id } = await built([
      'W1,Gil Moment,gil@moment.example,0113 496 0121,',
      'W2,Hob Moment,hob@moment.example,0113 496 0122,',
      'W3,Isa Moment,isa@moment.example,0113 496 0123,',
      'W4,Jon Moment,jon@moment.example,0113 496 0124,',
    ])
    await releaseRound(t.ines, round)
    // Done before they asked: nothing of it is to come, and the file must not bring it again.
    await recordContact(t.tam, id.Isa, { channel: 'email', result: 'sent' })
    await suppress(t.tam, { person: id.Gil }, STOP)
    await suppress(t.tam, { text: 'isa@moment.example' }, STOP)
    const agreed = await suppress(t.tam, { person: id.Jon }, { ...STOP, reason: 'other', channels: ['email'] })
    const names = async (asReleased = false) =>
      (await roundFile(t.ines, round, 'email', { asReleased })).bytes
        .toString()
        .split('\r\n')
        .slice(1)
        .flatMap((row) => row.split(',')[2] ?? [])
    expect(await names()).toEqual(['Hob'])
    const { files, stopped } = await openRound(t.ines, round)
    expect(files.map((file) => [file.channel, file.rows, file.leftOut])).toEqual(
      expect.arrayContaining([
        ['email', 4, 3],
        ['phone', 4, 1],
      ]),
    )
    expect(stopped.every((own) => own.takenBy.length === 0)).toBe(true)
    const about = JSON.parse((await aboutRoundFiles(t.ines, round)).bytes.toString())
    const told = about.tables.find((table: { url: string }) => table.url.includes('email'))
    const file = await roundFile(t.ines, round, 'email')
    expect([told.url, told['dc:extent'], told['schema:contentSize'], told['schema:sha256']]).toEqual([
      file.name,
      1,
      file.bytes.length,
      file.sha256,
    ])
    // What was stopped does not come back with the lift.
    await liftSuppression(t.ines, agreed, 'a mistake')
    expect(await names()).toEqual(['Hob'])
    await closeRound(t.ines, round)
    await suppress(t.tam, { person: id.Hob }, STOP)
    expect(await names()).toEqual([])
    expect(await names(true)).toEqual(['Gil', 'Hob', 'Isa', 'Jon'])
    const after = await openRound(t.ines, round)
    expect(after.stopped.find((own) => own.channel === 'email')?.takenBy.map(({ name }) => name)).toEqual([t.ines.name])
    expect((await audit(t.ines, 30)).toCarry.map((own) => [own.name, own.takenBy])).toContainEqual(['Gil Moment', [t.ines.name]])
  })
  test('of one address ends only what goes to it; of a domain, a number in a file and a merged record as well', async () => {
    const { round, id } = await built([
      'B1,Cat Moment,cat@one.moment.example,0113 496 0103,',
      'B2,Dee Moment,dee@two.moment.example,0113 496 0104,',
      'B3,Eve Moment,eve@three.moment.example,0113 496 0105,',
    ])
    await releaseRound(t.ines, round)
    const open = async (who: number) =>
      (
        await t.app('contact_to_come').where({ round_id: round, person_id: who }).whereNull('ended_at').orderBy('channel').select('channel')
      ).map((r) => r.channel)
    await suppress(t.tam, { text: '@one.moment.example' }, { ...STOP, channels: ['email'] })
    expect(await open(id.Cat)).toEqual(['phone'])
    await broughtIn(t.ines, 'stops.csv', 'Phone,Reason\n0113 496 0104,opt-out\n', { kind: 'suppressions' })
    expect(await open(id.Dee)).toEqual(['email'])
    // Eve is found to be somebody else, and that one asks to be left alone.
    const other = await broughtIn(t.ines, 'other.csv', `${HEAD}B4,Evelyn Moment,evelyn@three.moment.example,,\n`)
    const { id: kept } = await t.app('person').where({ batch_id: other }).first('id')
    await mergePeople(t.ines, kept, id.Eve)
    await suppress(t.tam, { person: kept }, STOP)
    expect(await open(id.Eve)).toEqual([])
    expect(await checkContact(t.ines, round, id.Eve, 'phone')).toMatchObject({ may: false, title: 'Asked us to stop' })
    await closeRound(t.ines, round)
  })
  test('that stands again, because its lift was taken back, stops as well', async () => {
    const { round, id } = await built(['J1,Ula Moment,ula@moment.example,,'])
    const given = await suppress(t.tam, { person: id.Ula }, STOP)
    await liftSuppression(t.ines, given, 'a mistake')
    await releaseRound(t.ines, round)
    expect((await openRound(t.ines, round)).toCome.open).toBe(1)
    const lifting = await t.app('lifting').orderBy('id', 'desc').first('id')
    await takeBackLifting(t.ines, lifting.id)
    expect((await openRound(t.ines, round)).toCome.open).toBe(0)
    await closeRound(t.ines, round)
  })
  test('of somebody who is found to be one with a person of the round holds for both', async () => {
    const { round, id } = await built(['I1,Tia Moment,tia@moment.example,,'])
    await releaseRound(t.ines, round)
    const other = await broughtIn(t.ines, 'tia.csv', `${HEAD}I2,Tiana Moment,tiana@moment.example,,\n`)
    const { id: merged } = await t.app('person').where({ batch_id: other }).first('id')
    await suppress(t.tam, { person: merged }, STOP)
    expect((await openRound(t.ines, round)).toCome.open).toBe(1)
    await mergePeople(t.ines, id.Tia, merged)
    const page = await openRound(t.ines, round)
    expect([page.toCome.open, page.stopped.map(({ channel, people }) => [channel, people])]).toEqual([0, [['email', 1]]])
    await closeRound(t.ines, round)
  })
  test('leaves whoever was let through where it is one of ours, and never where they asked for it', async () => {
    const { round, id } = await built(['C1,Fay Moment,fay@moment.example,,customer', 'C2,Gus Moment,gus@moment.example,,'])
    await letThrough(t.ines, round, id.Fay, 'email', 'they asked for the offer')
    await releaseRound(t.ines, round)
    await suppress(t.tam, { person: id.Fay }, { ...STOP, reason: 'other' })
    expect((await openRound(t.ines, round)).toCome).toEqual({ open: 2, all: 2 })
    const id2 = await suppress(t.tam, { person: id.Fay }, STOP)
    expect((await openRound(t.ines, round)).toCome).toEqual({ open: 1, all: 2 })
    // Lifted again, the contact stays stopped: nobody is called by a sheet that was corrected by hand.
    await liftSuppression(t.ines, id2, 'a mistake')
    expect(await checkContact(t.ines, round, id.Fay, 'email')).toMatchObject({ may: false, title: 'Stopped since the release' })
    await closeRound(t.ines, round)
  })
  test('that is still to begin stops nothing yet, and is found when the contact is about to be made', async () => {
    const { round, id } = await built(['D1,Hal Moment,hal@moment.example,,'])
    await releaseRound(t.ines, round)
    await suppress(t.tam, { person: id.Hal }, { ...STOP, since: '2026-06-16' })
    expect((await openRound(t.ines, round)).toCome).toEqual({ open: 1, all: 1 })
    expect(await checkContact(t.ines, round, id.Hal, 'email')).toMatchObject({ may: true })
    pinClock(new Date('2026-06-16T08:00:00Z'))
    expect(await checkContact(t.ines, round, id.Hal, 'email')).toMatchObject({ may: false, title: 'Asked us to stop' })
    pinClock(new Date('2026-06-15T09:00:00Z'))
    await closeRound(t.ines, round)
  })
})

describe('a contact that is about to be made', () => {
  const lawful = (): Rule[] => [
    ...firstPolicy(),
    { ...newRule('calling-hours', []), from: '08:00', until: '20:00' } as Rule,
    { ...newRule('quiet-days', []), countries: ['GB', 'US'] } as Rule,
  ]
  test('is asked about by the clock where the number is, and by the holidays there', async () => {
    const { round, id } = await built(['E1,Ida Moment,,+1 212 555 0123,', 'E2,Jan Moment,,0113 496 0106,'], lawful())
    await releaseRound(t.ines, round)
    // 09:00 in Leeds is 04:00 in New York.
    expect(await checkContact(t.ines, round, id.Jan, 'phone')).toMatchObject({ may: true })
    const early = await checkContact(t.ines, round, id.Ida, 'phone')
    expect(early).toMatchObject({ may: false, title: 'Calling hours' })
    expect((early as { detail: string }).detail).toContain('It is 05:00 where they are (America/New_York)')
    pinClock(new Date('2026-07-03T15:00:00Z'))
    // 3 July 2026 is the day Independence Day is kept, since the 4th is a Saturday.
    expect(await checkContact(t.ines, round, id.Ida, 'phone')).toMatchObject({ may: false, title: 'Quiet days' })
    expect(await checkContact(t.ines, round, id.Jan, 'phone')).toEqual({ may: true, to: '+441134960106' })
    pinClock(new Date('2026-06-15T09:00:00Z'))
    await closeRound(t.ines, round)
  })
  test('goes by what was recorded since, but not by contacts of the round itself', async () => {
    const { round, id } = await built([
      'F1,Kim Moment,kim@moment.example,0113 496 0107,',
      'F2,Lou Moment,lou@moment.example,0113 496 0108,',
    ])
    await releaseRound(t.ines, round)
    await recordContact(t.tam, id.Kim, { channel: 'phone', result: 'no answer' })
    // That was this round's own call.
    expect(await checkContact(t.ines, round, id.Kim, 'email')).toMatchObject({ may: true })
    expect(await checkContact(t.ines, round, id.Kim, 'phone')).toMatchObject({ may: false, title: 'Done already' })
    // A meeting counts for nothing, a letter of somebody else's does.
    await recordContact(t.tam, id.Lou, { channel: 'post', result: 'sent' })
    expect(await checkContact(t.ines, round, id.Lou, 'email')).toMatchObject({ may: false, title: 'Contacted recently' })
    await expect(checkContact(t.ines, round, id.Lou, 'post')).rejects.toThrow(/not contacted by post in this round/)
    await closeRound(t.ines, round)
    await expect(checkContact(t.ines, round, id.Lou, 'email')).rejects.toThrow(/closed/)
  })
})

test('a number on the register leaves where an established relationship opens it, and the last look in SQL agrees', async () => {
  const rules = firstPolicy().map((rule): Rule => (rule.kind === 'register' ? { ...rule, established: ['GB'] } : rule))
  const { round, id } = await built(
    ['G1,Mia Moment,,0113 496 0111,', 'G2,Noa Moment,,0113 496 0112,', 'G3,Oz Moment,,0113 496 0113,', 'G4,Pip Moment,,0113 496 0114,'],
    rules,
  )
  await broughtIn(t.ines, 'register.csv', 'Phone\n0113 496 0111\n0113 496 0112\n0113 496 0113\n', {
    kind: 'suppressions',
    register: { name: 'County register', version: '2026-06-01' },
  })
  const set = (who: string, field: number, day: string) =>
    t
      .owner('person')
      .where({ id: id[who] })
      .update({ custom: JSON.stringify({ [field]: day }) })
  await set('Mia', FIELD.lastPurchase, '2024-12-15')
  await set('Noa', FIELD.lastPurchase, '2024-12-14')
  await set('Oz', FIELD.lastInquiry, '2026-03-15')
  await new Promise((resolve) => setTimeout(resolve, 300))
  const account = await screenRound(t.ines, round, { tab: 'channel', channel: 'phone' })
  expect(account.page.people.map((p) => [p.name, p.marks])).toEqual([
    ['Mia Moment', ['On the register; may be called until 15 Jun 2026: purchase on 15 Dec 2024']],
    ['Oz Moment', ['On the register; may be called until 15 Jun 2026: inquiry on 15 Mar 2026']],
    ['Pip Moment', undefined],
  ])
  await releaseRound(t.ines, round)
  expect((await roundFile(t.ines, round, 'phone')).bytes.toString()).toContain('Mia Moment')
  expect((await roundFile(t.ines, round, 'phone')).bytes.toString()).not.toContain('Noa Moment')
  await closeRound(t.ines, round)
})

test('somebody who is clear and whose role changed lately is marked so, and not held back', async () => {
  const { round, id } = await built(['H1,Quin Moment,quin@moment.example,,', 'H2,Rae Moment,rae@moment.example,,'])
  await broughtIn(t.ines, 'roles.csv', `Id,Name,Role\nH1,Quin Moment,Bursar\nH2,Rae Moment,Head\n`)
  pinClock(new Date('2026-06-15T12:00:00Z'))
  await broughtIn(t.ines, 'roles-2.csv', `Id,Name,Role\nH1,Quin Moment,Caretaker\n`)
  const clear = await screenRound(t.ines, round, { tab: 'clear' })
  // A role that was not known before is none that changed.
  expect(clear.page.people.map((p) => [p.id, p.marks])).toEqual([
    [id.Quin, ['Role changed on 15 Jun 2026, not confirmed: Bursar → Caretaker']],
    [id.Rae, undefined],
  ])
  expect(clear.figures.clear.email).toBe(2)
  pinClock(new Date('2026-06-15T09:00:00Z'))
})
