import { describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { batchOf } from '@/usecases/intake/batch-for'
import { prepareCheck } from '@/usecases/sources/check-emails'
import { setNumber } from '@/usecases/team/number-settings'
import { openPerson } from '@/usecases/directory/open-person'
import { prepareFill } from '@/usecases/sources/fill-gaps'
import { createList, startLine } from '@/usecases/lists/create-list'
import { receiveFile } from '@/usecases/intake/receive-file'
import { recordContact } from '@/usecases/contact/record-contact'
import { runBatch } from '@/usecases/intake/run-batch'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { broughtIn } from '../../support/database'
import { numberSetting } from '@/db/team/settings'
import { batchAccount } from '@/usecases/intake/batch-account'
import { batchRows } from '@/usecases/intake/batch-rows'
import { previewBatch } from '@/usecases/intake/preview-batch'
import { startBatch } from '@/usecases/intake/start-batch'
import { runUndo } from '@/usecases/intake/run-undo'
import { enquiryIndex } from '@/usecases/sources/enquiry-index'
import { openEnquiry } from '@/usecases/sources/open-enquiry'
import { enquiryItems } from '@/usecases/sources/enquiry-items'
import { batchFromEnquiry } from '@/usecases/sources/batch-from-enquiry'
import { givenCounty, began, people, t, view } from './county'

givenCounty()

describe('checking e-mail addresses', () => {
  test('each address once, by the states there are; bad ones are closed and told; nothing is asked twice in good time', async () => {
    const list = await createList(t.ines, 'Everyone', true, [startLine()])
    const id = await prepareCheck(t.ines, { list, name: 'Everyone' })
    const ready = await view(id)
    const { n } = (await t.app('address').where({ channel: 'email', usable: true }).countDistinct('key as n').first()) as { n: number }
    expect(ready).toMatchObject({ state: 'ready', total: Number(n), counts: { known: 0, open: Number(n) }, most: Number(n) })
    const done = await began(id)
    const { verified, uncertain, bad } = done.counts
    expect(verified + uncertain + bad).toBe(Number(n))
    expect(Math.min(verified, uncertain, bad)).toBeGreaterThan(5)
    // Uncertain ones are never charged for.
    expect(done.cost).toBe(verified + bad)
    const [closed] = (await enquiryItems(t.ines, id, 'bad')).items
    const page = await openPerson(t.ines, closed.person as number)
    const address = page.addresses.find((a) => a.value === closed.title)
    expect(address).toMatchObject({ usable: false, why: expect.stringMatching(/^checked as bad: /), state: { is: 'bad', old: false } })
    expect(page.ledger[0].title).toMatch(new RegExp(`^Email: ${closed.title} → ${closed.title}, bad: `))
    // A second check within the time costs nothing; after it, all are asked about again.
    expect(await view(await prepareCheck(t.ines, { list, name: 'Everyone' }))).toMatchObject({
      counts: { known: Number(n), open: 0 },
      most: 0,
    })
    await setNumber(t.ines, 'email-check-good-for', 30)
    pinClock(new Date('2026-08-01T09:00:00Z'))
    expect(await view(await prepareCheck(t.ines, { list, name: 'Everyone' }))).toMatchObject({ counts: { known: 0, open: Number(n) } })
    expect((await openPerson(t.ines, closed.person as number)).addresses.find((a) => a.value === closed.title)?.state?.old).toBe(true)
    pinClock(new Date('2026-06-15T09:00:00Z'))
    await expect(setNumber(t.ines, 'email-check-good-for', 0)).rejects.toThrow('1 to 3,650')
    await expect(setNumber(t.tam, 'email-check-good-for', 9)).rejects.toThrow(/coordinators/)
    expect(await numberSetting('email-check-good-for')).toBe(30)
  })

  test('an address that was bad and is not any more is opened again', async () => {
    const id = await prepareCheck(t.ines, { batch: 1, name: 'county.csv' })
    const bad = await t.app('email_check').where({ state: 'bad' }).first('key')
    const { person_id } = await t.app('address').where({ key: bad.key }).first('person_id')
    await t.app('email_check').where({ key: bad.key }).update({ state: 'verified', why: 'the mailbox takes mail' })
    const { applyChecks } = await import('@/db/sources/email-checks')
    expect(await applyChecks(t.app, 'a.key = ?', [bad.key])).toMatchObject([{ person_id, usable: true }])
    expect((await view(id)).kind).toBe('check')
  })

  test('an address that was checked as bad is closed for whoever comes in with it', async () => {
    const [{ data }] = await t.app('enquiry_item').where({ state: 'bad' }).orderBy('n').limit(1).select('data')
    await t
      .app('email_check')
      .where({ key: (await t.app('address').where({ value: data.email }).first('key')).key })
      .update({ state: 'bad' })
    await broughtIn(t.ines, 'again.csv', `Id,Name,Email\nBAD1,Nobody Reached,${data.email}\n`, { byKeysAlone: true })
    const { id } = await t.app('person').where({ outside_id: 'BAD1' }).first('id')
    expect((await openPerson(t.ines, id)).addresses).toMatchObject([{ usable: false, why: expect.stringMatching(/^checked as bad/) }])
  })

  test('an enquiry about a private list is for its owner alone', async () => {
    const list = await createList(t.ines, 'Mine alone', false, [startLine()])
    const id = await prepareCheck(t.ines, { list, name: 'Mine alone' })
    await expect(openEnquiry(t.tam, id)).rejects.toThrow()
    await expect(enquiryItems(t.tam, id, 'open')).rejects.toThrow()
    expect((await enquiryIndex(t.tam)).map((e) => e.id)).not.toContain(id)
    expect((await enquiryIndex(t.ines)).map((e) => e.id)).toContain(id)
    await expect(prepareCheck(t.marek, { list, name: 'Mine alone' })).rejects.toThrow()
  })

  test('the state of a phone follows what calls have shown', async () => {
    const { person_id } = await t.app('address').where({ channel: 'phone', usable: true }).first('person_id')
    const state = async () => (await openPerson(t.ines, person_id)).addresses.find((a) => a.channel === 'phone')?.state?.is
    expect(await state()).toBe('not tried')
    for (const [result, is] of [
      ['no answer', 'not tried'],
      ['spoke', 'reached'],
      ['out of service', 'out of service'],
      ['voicemail', 'reached'],
      ['wrong number', 'wrong'],
    ] as const) {
      pinClock(new Date((await t.app.raw('select now() as at')).rows[0].at))
      await recordContact(t.tam, person_id, { channel: 'phone', result })
      expect(await state()).toBe(is)
    }
    pinClock(new Date('2026-06-15T09:00:00Z'))
  })
})

describe('filling gaps', () => {
  test('of a list: only what is lacking, only in blanks, priced by outcome, and undone like any batch', async () => {
    const id = await prepareFill(t.ines, { batch: 1, name: 'county.csv' }, ['email', 'phone'])
    const ready = await view(id)
    expect(ready.counts.known).toBeGreaterThan(100)
    expect(ready.most).toBe(ready.counts.open * 9)
    const done = await began(id)
    expect(done.cost).toBe(done.counts.verified * 9)
    expect(Math.min(done.counts.verified, done.counts.nothing)).toBeGreaterThan(0)
    // Found is who has something of what they lack, and only that came; whoever has nothing of it cost nothing.
    const found: { data: { lacks: string[] }; answer: Record<string, string>; state: string }[] = await t
      .app('enquiry_item')
      .where({ enquiry_id: id })
      .whereNotNull('answer')
    expect(found).toHaveLength(done.counts.verified + done.counts.uncertain)
    for (const { data, answer } of found) {
      const titles = data.lacks.map((field) => (field === 'email' ? 'E-mail' : 'Phone'))
      expect(Object.keys(answer).length).toBeGreaterThan(0)
      expect(titles).toEqual(expect.arrayContaining(Object.keys(answer)))
    }
    expect(Object.fromEntries(done.filled).Phone).toBe(found.filter(({ answer }) => answer.Phone).length)
    const batch = await batchFromEnquiry(t.ines, id)
    const preview = await previewBatch(t.ines, batch)
    expect(preview.batch.mapping[0]).toBe('record')
    const lacking = (await t.app('enquiry_item').where({ enquiry_id: id, state: 'verified' }).orderBy('n').first()) as {
      data: { person: number; lacks: string[] }
    }
    const before = await openPerson(t.ines, lacking.data.person)
    await startBatch(t.ines, batch, preview.batch, preview.batch.options)
    await runBatch(batch)
    const { counts } = await batchAccount(t.ines, batch)
    expect(counts).toMatchObject({ new: 0, refused: 0, 'in doubt': 0 })
    expect(counts.updated).toBeGreaterThan(0)
    expect((await batchRows(t.ines, batch, { outcome: 'updated' })).rows[0].reason).toMatch(/known by record number/)
    const after = await openPerson(t.ines, lacking.data.person)
    expect(after.view.name).toBe(before.view.name)
    expect(after.addresses.length).toBeGreaterThan(before.addresses.length)
    await undoBatch(t.ines, batch)
    await runUndo(batch)
    expect((await openPerson(t.ines, lacking.data.person)).addresses.length).toBe(before.addresses.length)
  })

  test('of a file with addresses and profiles alone: known ones cost nothing, its own cells stand, and the rest is a file to look at', async () => {
    const known = people.find((p, i) => i < 700 && p.email !== '') as (typeof people)[number]
    const ofChecker = people
      .slice(900, 960)
      .filter((p, i) => p.email !== '' && (i + 900) % 5 < 3)
      .slice(0, 12)
    const csv = `E-mail,Profile,Remark\n${known.email},,ours\n${ofChecker.map((p) => `${p.email},,${p.id}`).join('\n')}\nnobody@nowhere.example,,none\n,,empty\n,https://profiles.example/nobody,\n`
    const file = await receiveFile(t.ines, { name: 'cards.csv', bytes: Buffer.from(csv), kind: 'people' })
    const id = await prepareFill(t.ines, { file, name: 'cards.csv' }, ['email'])
    expect((await view(id)).counts).toMatchObject({ known: 1, open: 14, 'left out': 1, nothing: 0 })
    const { counts } = await began(id)
    expect(counts.verified).toBeGreaterThan(3)
    expect(counts.verified + counts.uncertain + counts.nothing).toBe(14)
    const batch = await batchOf(await batchFromEnquiry(t.ines, id))
    const rows = (batch.first_rows as string[][]).map((row) => Object.fromEntries(batch.header.map((title, i) => [title, row[i]])))
    // Every row of the file is there, its own cells untouched.
    expect(rows).toHaveLength(16)
    expect(rows[0]).toMatchObject({ Remark: 'ours', Name: `${known.given} ${known.family}`, Found: 'known' })
    const found = rows.filter((row) => row.Found === 'verified')
    expect(found).toHaveLength(counts.verified)
    for (const row of found) {
      const p = ofChecker.find((c) => c.id === row.Remark)
      expect(row).toMatchObject({ 'E-mail': p?.email, Name: `${p?.given} ${p?.family}`, Organisation: p?.organisation })
    }
    await expect(prepareFill(t.ines, { batch: 1, name: 'x' }, [])).rejects.toThrow('at least one thing')
  })
})
