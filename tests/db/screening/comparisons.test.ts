import { describe, expect, test } from 'vitest'
import { comparisonsDue } from '@/db/screening/comparison-rows'
import { blinded, blindedAgain, digestOf, newSecret, readFile, sharedPlaces, writeFile } from '@/core/screening/blinded'
import { erasePerson } from '@/usecases/directory/erase-person'
import { beginComparison, comparisonIndex, dropComparison, ourFile, sharedWith } from '@/usecases/screening/comparisons'
import { runComparison } from '@/usecases/screening/run-comparison'
import { sharedCsv } from '@/usecases/screening/shared-csv'
import { suppress } from '@/usecases/screening/suppress'
import { takeTheirFile } from '@/usecases/screening/take-their-file'
import { broughtIn } from '../../support/database'
import { givenStopped, HEADER, idOf, t, word } from './stopped'

givenStopped()

/** The other organisation: its own numbers and addresses, its secret, and what it makes of the files it is sent. */
async function others(texts: string[]) {
  const secret = await newSecret()
  const elements = await blinded(texts, secret)
  return {
    offer: Buffer.from(await writeFile({ part: 'offer', elements })),
    answerTo: async (offer: Buffer) => {
      const ours = (await readFile(offer)).elements
      return Buffer.from(await writeFile({ part: 'answer', of: await digestOf(ours), elements: await blindedAgain(ours, secret) }))
    },
    shared: async (offer: Buffer, answer: Buffer) => {
      const mine = await blindedAgain((await readFile(offer)).elements, secret)
      return (await sharedPlaces((await readFile(answer)).elements, mine)).map((place) => texts[place])
    },
  }
}
const pieces = async function* (bytes: Buffer) {
  for (let at = 0; at < bytes.length; at += 1000) yield bytes.subarray(at, at + 1000)
}
const bring = (id: number, bytes: Buffer) => takeTheirFile(t.ines, id, pieces(bytes))
const file = async (id: number, part: 'offer' | 'answer') => (await ourFile(t.ines, id, part)).bytes

describe('comparing with another organisation', () => {
  test('each side learns which it shares and nothing else; the secret goes when it is over', async () => {
    await broughtIn(
      t.ines,
      'both.csv',
      `${HEADER}C1,Una Both,,una@both.example,0155 0123 471,,,,\nC2,Vic Ours,,vic@ours.example,,,,,\nC3,Wil Free,,wil@free.example,,,,,\nC4,Xia Gone,,xia@gone.example,,,,,\nC5,Yan Kept,,yan@kept.example,,,,,\n`,
    )
    for (const who of ['C1', 'C2', 'C4']) await suppress(t.tam, { person: await idOf(who) }, word)
    // One of ours alone is no matter of theirs.
    await suppress(t.tam, { person: await idOf('C5') }, { ...word, reason: 'competitor' })
    const id = await beginComparison(t.ines, ' Fell Outreach ')
    await expect(file(id, 'offer')).rejects.toThrow(/not made yet/)
    await runComparison(id)
    const them = await others([
      'email:una@both.example',
      'email:xia@gone.example',
      'email:wil@free.example',
      'email:yan@kept.example',
      'phone:+441550123999',
    ])
    const offer = await file(id, 'offer')
    const answer = await them.answerTo(offer)
    expect(await bring(id, answer)).toBe('answer')
    await runComparison(id)
    expect((await comparisonIndex(t.ines))[0]).toMatchObject({ name: 'Fell Outreach', theirs: null, shared: null, doneAt: null })
    expect(await bring(id, them.offer)).toBe('offer')
    // Whoever is erased meanwhile is not told.
    await erasePerson(t.marek, await idOf('C4'))
    await runComparison(id)
    expect((await comparisonIndex(t.ines))[0]).toMatchObject({ ours: 4, theirs: 5, shared: 2, offer: true, answer: true, failed: null })
    expect((await sharedWith(t.ines, id)).shared).toEqual([
      { channel: 'email', value: 'una@both.example', person: await idOf('C1'), name: 'Una Both' },
    ])
    expect((await sharedCsv(t.ines, id)).bytes.toString()).toContain('una@both.example')
    // They see the same from our answer.
    expect(await them.shared(offer, await file(id, 'answer'))).toEqual(['email:una@both.example', 'email:xia@gone.example'])
    const row = await t.app('comparison').where({ id }).first()
    expect([row.secret, row.addresses, row.their_answer]).toEqual([null, null, null])
    expect(JSON.stringify(row)).not.toContain('una@')
    expect(offer.toString() + (await file(id, 'answer')).toString()).not.toMatch(/una|vic|@/)
  })

  test('what was sent stays as it was however often it is run; two at once make one', async () => {
    const id = await beginComparison(t.ines, 'Twice at once')
    await Promise.all([runComparison(id), runComparison(id)])
    const first = await file(id, 'offer')
    const them = await others(['email:una@both.example'])
    await bring(id, await them.answerTo(first))
    await suppress(t.tam, { person: await idOf('C3') }, word)
    await runComparison(id)
    expect((await file(id, 'offer')).equals(first)).toBe(true)
    expect(await comparisonsDue(t.app)).toEqual([])
    await bring(id, them.offer)
    expect(await comparisonsDue(t.app)).toEqual([{ id }])
    await Promise.all([runComparison(id), runComparison(id)])
    expect((await sharedWith(t.ines, id)).shared.map((own) => own.name)).toEqual(['Una Both'])
    // Another comparison blinds the same addresses otherwise.
    const other = await beginComparison(t.ines, 'Somebody else')
    await runComparison(other)
    expect(await sharedPlaces((await readFile(await file(other, 'offer'))).elements, (await readFile(first)).elements)).toEqual([])
    await dropComparison(t.ines, other)
    await expect(file(other, 'offer')).rejects.toThrow(/no such comparison/)
    await runComparison(other)
    await expect(sharedWith(t.ines, other)).rejects.toThrow(/no such comparison/)
  })

  test('files that are none, our own, twice the same or answers to others are refused, and nothing is kept', async () => {
    const id = await beginComparison(t.ines, 'Careless')
    await expect(bring(id, Buffer.from('{}'))).rejects.toThrow(/cannot be used|not made yet/)
    await runComparison(id)
    const them = await others(['email:una@both.example'])
    await expect(bring(id, Buffer.from('nothing'))).rejects.toThrow('it is no JSON')
    await expect(bring(id, await file(id, 'offer'))).rejects.toThrow('your own offer')
    await expect(bring(id, await them.answerTo(them.offer))).rejects.toThrow('another offer than yours')
    await expect(bring(id, Buffer.alloc(20_000_001, 32))).rejects.toThrow('larger than any file')
    expect((await comparisonIndex(t.ines))[0]).toMatchObject({ name: 'Careless', cameOffer: false, cameAnswer: false })
    await bring(id, them.offer)
    await expect(bring(id, (await others(['email:a@b.example'])).offer)).rejects.toThrow('is in already')
    await expect(sharedWith(t.ines, id)).rejects.toThrow('not over yet')
    for (const act of [
      comparisonIndex(t.tam),
      beginComparison(t.tam, 'x'),
      dropComparison(t.tam, id),
      sharedWith(t.tam, id),
      ourFile(t.tam, id, 'offer'),
    ])
      await expect(act).rejects.toThrow(/coordinators and managers/)
    await expect(beginComparison(t.ines, ' ')).rejects.toThrow(/Name the organisation/)
  })
})
