import { describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { openOrganisation } from '@/usecases/directory/open-organisation'
import { createList } from '@/usecases/lists/create-list'
import { startRound } from '@/usecases/rounds/start-round'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { letThrough } from '@/usecases/screening/let-through'
import { suppress, suppressTexts } from '@/usecases/screening/suppress'
import { suppressionIndex } from '@/usecases/screening/suppression-index'
import { suppressionsCsv } from '@/usecases/screening/suppressions-csv'
import { broughtIn } from '../../support/database'
import { givenStopped, HEADER, idOf, reach, t, word } from './stopped'

givenStopped()

const every = ['email', 'phone', 'post', 'direct']

describe('a household', () => {
  test('is suppressed as a whole: everybody at the address who has no organisation, now and later, by every channel', async () => {
    await broughtIn(
      t.ines,
      'house.csv',
      `${HEADER}H1,Ivy Ash,,ivy@house.example,,7 Weir Street,Thornmouth,PW1 7AA,
H2,Jon Ash,,jon@house.example,,7 Weir St,Thornmouth,PW1 7AA,
H3,Kai Works,Works nine,kai@house.example,,7 Weir Street,Thornmouth,PW1 7AA,
H4,Lea Next,,lea@house.example,,9 Weir Street,Thornmouth,PW1 7AA,\n`,
    )
    const id = await suppress(t.tam, { household: await idOf('H1') }, { ...word, evidence: 'letter of 3 June, in the blue folder' })
    expect([(await reach('H1')).email, (await reach('H2')).email, (await reach('H3')).email, (await reach('H4')).email]).toEqual([
      'closed',
      'closed',
      'open',
      'open',
    ])
    // Letters to the same door for somebody who works there are another matter.
    expect([(await reach('H2')).post, (await reach('H3')).post]).toEqual(['closed', 'open'])
    await broughtIn(t.ines, 'moved-in.csv', `${HEADER}H5,Mo New,,mo@house.example,,"7 WEIR STREET",,PW1 7AA,\n`)
    expect((await reach('H5')).email).toBe('closed')
    const row = (await suppressionIndex(t.ines, '')).rows.find((r) => r.id === id)
    expect(row).toMatchObject({
      scope: 'household',
      evidence: 'letter of 3 June, in the blue folder',
      catches: 3,
      who: 'Thornmouth, PW1 7AA',
    })
    await liftSuppression(t.ines, id, 'they rang')
    expect((await reach('H5')).email).toBe('open')
    const lifted = (await suppressionIndex(t.ines, '')).rows.find((r) => r.id === id)
    expect(lifted).toMatchObject({ stand: 'lifted', lifted: { word: 'they rang', by: t.ines.name } })
  })
  test('is refused where somebody has an organisation, or no address that tells it', async () => {
    await expect(suppress(t.tam, { household: await idOf('S1') }, word)).rejects.toThrow(/works at an organisation/)
    await broughtIn(t.ines, 'nowhere.csv', `${HEADER}H6,Nan Nowhere,,nan@house.example,,,,,\n`)
    await expect(suppress(t.tam, { household: await idOf('H6') }, word)).rejects.toThrow(/not known well enough/)
    await expect(suppress(t.tam, { household: 900_000 }, word)).rejects.toThrow(/no such person/)
  })
})

test('an organisation with its branches: those of the same name and more, and nobody whose name is only like it', async () => {
  await broughtIn(
    t.ines,
    'branches.csv',
    `${HEADER}B1,Oda Mill,Fenbrook Mills,oda@fen.example,,,,,\nB2,Pia Mill,Fenbrook Mills Thornmouth,pia@fen.example,,,,,\nB3,Quin Mill,Fenbrook Millstone,quin@fen.example,,,,,\n`,
  )
  const o = await t.app('organisation').where({ name: 'Fenbrook Mills' }).first('id')
  expect((await openOrganisation(t.ines, o.id)).branches.map((b) => b.name)).toEqual(['Fenbrook Mills Thornmouth'])
  await suppress(t.tam, { organisation: o.id, branches: true }, { ...word, reason: 'competitor', channels: every })
  expect([(await reach('B1')).email, (await reach('B2')).email, (await reach('B3')).email]).toEqual(['closed', 'closed', 'open'])
})

describe('an agreed pause', () => {
  test('needs its end, ends by itself, and says so the day before', async () => {
    await broughtIn(t.ines, 'pause.csv', `${HEADER}P1,Rae Rest,,rae@pause.example,,,,,\n`)
    const who = await idOf('P1')
    await expect(suppress(t.tam, { person: who }, { ...word, reason: 'agreed pause' })).rejects.toThrow(/give the day it ends/)
    await expect(
      t.owner('suppression').insert({
        reason: 'agreed pause',
        channels: ['email'],
        scope: 'person',
        person_id: who,
        hint: 'R.',
        since: new Date(),
        word: 'x',
        actor_id: t.tam.id,
        recorded_at: new Date(),
      }),
    ).rejects.toThrow(/suppression_pause_check/)
    const id = await suppress(t.tam, { person: who }, { ...word, reason: 'agreed pause', until: '2026-06-25' })
    expect((await suppressionIndex(t.ines, '')).ending.some((s) => s.id === id)).toBe(false)
    pinClock(new Date('2026-06-24T09:00:00Z'))
    expect((await suppressionIndex(t.ines, '')).ending.find((s) => s.id === id)).toMatchObject({ who: 'Rae Rest', until: '2026-06-25' })
    expect((await reach('P1')).email).toBe('closed')
    // In the team's zone the 25th begins at 23:00 UTC.
    pinClock(new Date('2026-06-24T23:00:00Z'))
    expect((await reach('P1')).email).toBe('open')
    pinClock(new Date('2026-06-15T09:00:00Z'))
  })
  test('can be let through, as whatever is ours can, and an opt-out beside it cannot', async () => {
    await broughtIn(t.ines, 'pause2.csv', `${HEADER}P2,Sol Rest,,sol@pause.example,0113 496 0091,,,,\n`)
    const who = await idOf('P2')
    await suppress(t.tam, { person: who }, { ...word, reason: 'agreed pause', until: '2026-12-01' })
    await suppress(t.tam, { text: '0113 496 0091' }, { ...word, reason: 'complaint' })
    const round = await startRound(t.ines, await createList(t.ines, 'Pauses', true))
    await letThrough(t.ines, round, who, 'email', 'they asked for the date of the open day')
    await expect(letThrough(t.ines, round, who, 'phone', 'the same')).rejects.toThrow(/nobody can let this through/)
  })
})

test('reasons come in by a file in many words and go out again with what they rest on', async () => {
  await broughtIn(
    t.ines,
    'reasons.csv',
    'Email,Reason,Until,Evidence\na@reasons.example,Hard bounce,,550 5.1.1\nb@reasons.example,moved away,,neighbour said so\nc@reasons.example,pause,,\nd@reasons.example,agreed pause,2026-09-01,\n',
    { kind: 'suppressions' },
  )
  const found = (await suppressionIndex(t.ines, 'a@reasons.example')).rows[0]
  expect(found).toMatchObject({ reason: 'bounce', evidence: '550 5.1.1', batch: { file: 'reasons.csv' } })
  expect((await suppressionIndex(t.ines, 'b@reasons.example')).rows[0].reason).toBe('deceased or moved')
  expect((await suppressionIndex(t.ines, 'c@reasons.example')).rows).toEqual([])
  expect((await suppressionIndex(t.ines, 'd@reasons.example')).rows[0]).toMatchObject({ reason: 'agreed pause' })
  expect((await suppressionsCsv(t.ines, 'a@reasons.example', null)).bytes.toString()).toContain('550 5.1.1')
})

test('a do-not-call register closes phones however it is given, and is refused where nothing would be closed', async () => {
  await broughtIn(
    t.ines,
    'by-hand.csv',
    `${HEADER}R1,Rae Hand,,rae@hand.example,0155 0123 461,7 Rill Lane,Thornmouth,PW1 7AB,\nR2,Roy Hand,,roy@hand.example,0155 0123 462,8 Rill Lane,Thornmouth,PW1 7AB,\n`,
  )
  const register = { ...word, reason: 'register' }
  await suppress(t.tam, { person: await idOf('R1') }, { ...register, channels: every })
  expect(await reach('R1')).toMatchObject({ phone: 'closed', email: 'open', post: 'open' })
  const row = (await suppressionIndex(t.ines, 'hand')).rows.find((own) => own.reason === 'register')
  expect(row?.channels).toEqual(['phone'])
  // Whoever chooses other channels alone means something else, which would not have been held to.
  const refused = /register is about phone numbers.*another reason/
  await expect(suppress(t.tam, { person: await idOf('R2') }, { ...register, channels: ['email'] })).rejects.toThrow(refused)
  for (const text of ['roy@hand.example', '@hand.example', 'https://board.example/roy'])
    await expect(suppressTexts(t.tam, [text], { ...register, channels: every })).rejects.toThrow(refused)
  await expect(
    suppress(
      t.tam,
      { postal: { street: '8 Rill Lane', town: 'Thornmouth', postcode: 'PW1 7AB' } as never },
      { ...register, channels: every },
    ),
  ).rejects.toThrow(refused)
  expect(await reach('R2')).toMatchObject({ phone: 'open', email: 'open', post: 'open' })
  await suppressTexts(t.tam, ['0155 0123 462'], { ...register, channels: every })
  expect(await reach('R2')).toMatchObject({ phone: 'closed', email: 'open' })
})
