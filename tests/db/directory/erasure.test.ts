import { readFileSync } from 'node:fs'
import { execFileSync } from 'node:child_process'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { pinClock } from '@/runtime/clock'
import { addNote } from '@/usecases/contact/add-note'
import { recordContact } from '@/usecases/contact/record-contact'
import { erasePerson } from '@/usecases/directory/erase-person'
import { mergePeople } from '@/usecases/directory/merge-people'
import { openPerson } from '@/usecases/directory/open-person'
import { personFile, proofFile } from '@/usecases/directory/person-file'
import { proofOf } from '@/usecases/directory/proof'
import { batchAccount } from '@/usecases/intake/batch-account'
import { createList } from '@/usecases/lists/create-list'
import { closeRound } from '@/usecases/rounds/close-round'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { screenRound } from '@/usecases/rounds/screen-round'
import { startRound } from '@/usecases/rounds/start-round'
import { letThrough } from '@/usecases/screening/let-through'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { receiveFile } from '@/usecases/intake/receive-file'
import { sheetRow, workbook } from '../../formats/files'

let t: TestDatabase
const HEAD = 'Id,Name,Role,Email,Phone,Handle,Address,Town,Postcode,Status\n'
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const idOf = async (outside: string): Promise<number> => (await t.app('person').where({ outside_id: outside }).first('id')).id
const manager = () => ({ ...t.ines, post: 'manager' as const })

beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(
    t.ines,
    'people.csv',
    `${HEAD}X1,Wilhelmina Quillfeather,Bursar,w.quillfeather@erase.example,0113 496 0321,@quillfeather,3 Mill Lane,Thornmouth,PW1 2AB,customer
X2,Ada Other,Bursar,ada@erase.example,0113 496 0322,,5 Mill Lane,Thornmouth,PW1 2AB,
X3,Ben Shares,Bursar,ben@erase.example,0113 496 0322,,5 Mill Lane,Thornmouth,PW1 2AB,\n`,
  )
})

/** What a fresh dump of the database holds. */
function dump(): string {
  const { host, port, user, password, database } = t.owner.client.config.connection as Record<string, string>
  const url = t.owner.client.config.connection.connectionString ?? `postgresql://${user}:${password}@${host}:${port}/${database}`
  return execFileSync('/usr/lib/postgresql/15/bin/pg_dump', ['--dbname', url], { maxBuffer: 1 << 29 }).toString()
}

describe('a person who asks to be erased', () => {
  let person: number
  let round: number
  const WORDS = ['Quillfeather', 'quillfeather', '4960321', '496 0321', 'Wilhelmina']
  test('was everywhere before', async () => {
    person = await idOf('X1')
    await broughtIn(t.ines, 'twice.csv', `${HEAD}X9,Wilhelmina Quill-Feather,Head,wilhelmina@erase.example,,,,,,\n`)
    await mergePeople(t.ines, person, await idOf('X9'))
    await addNote(t.tam, person, 'prefers mornings')
    await addNote(t.tam, await idOf('X2'), 'knows Wilhelmina Quillfeather from school')
    await suppress(
      t.tam,
      { text: 'w.quillfeather@erase.example' },
      { reason: 'other', channels: ['email'], word: 'Wilhelmina Quillfeather', evidence: 'her letter' },
    )
    const list = await createList(t.ines, 'Everybody', true, [start])
    round = await startRound(t.ines, list)
    await letThrough(t.ines, round, person, 'phone', 'Wilhelmina Quillfeather asked for a call')
    await releaseRound(t.ines, round)
    await recordContact(t.tam, person, { channel: 'phone', result: 'spoke', note: 'will call back' })
    expect((await roundFile(t.ines, round, 'phone')).bytes.toString()).toContain('Quillfeather')
    const before = dump()
    for (const word of WORDS) expect(before.includes(word) || before.includes(Buffer.from(word).toString('hex'))).toBe(true)
  })

  test('can be told why they were contacted, and what is known of them', async () => {
    const proof = await proofOf(t.ines, person, '2026-06-15')
    expect(proof.contacted).toBe(true)
    const said = JSON.stringify(proof)
    expect(said).toContain('in round 1 of Everybody')
    expect(said).toContain('to +441134960321')
    expect(said).toContain('Let through by phone')
    expect(said).toContain('closed by “Customers and our own people”: Relation to us: customer')
    expect(said).toContain('Another reason","email; email address; since 15 Jun 2026')
    expect(said).toContain('people.csv","row 1')
    const file = await proofFile(t.ines, person, '2026-06-15')
    expect(file.bytes.toString()).toContain('<h1>Why Wilhelmina Quillfeather was contacted</h1>')
    const json = JSON.parse((await personFile(t.ines, person, 'json')).bytes.toString())
    expect(json.person).toMatchObject({ name: 'Wilhelmina Quillfeather', role: 'Bursar' })
    expect(json.addresses.map((a: { value: string }) => a.value)).toContain('@quillfeather')
    expect(json.ledger.map((e: { what: string }) => e.what)).toContain('Note')
    expect((await personFile(t.ines, person, 'html')).bytes.toString()).toContain('prefers mornings')
    await expect(personFile(t.tam, person, 'json')).rejects.toThrow(/coordinators and managers/)
    // The day before there was nothing; the day after is still to come.
    expect((await proofOf(t.ines, person, '2026-06-14')).contacted).toBe(false)
    await expect(proofOf(t.ines, person, '2026-06-16')).rejects.toThrow(/still to come/)
  })

  test('is erased by a manager alone', async () => {
    await expect(erasePerson(t.tam, person)).rejects.toThrow(/for managers/)
    await expect(erasePerson(t.ines, person)).rejects.toThrow(/for managers/)
    await expect(erasePerson(manager(), 900_000)).rejects.toThrow(/no such person/)
  })

  test('is in no dump afterwards, and counts still add up', async () => {
    const before = await screenRound(t.ines, round, { tab: 'clear' })
    const erased = await erasePerson(manager(), person)
    expect(erased).toMatchObject({ records: 2, uploads: 2 })
    // In the file of calls they are themselves; a note on somebody else in the others names them.
    expect(erased.files.map((f) => f.channel).sort()).toEqual(['email', 'phone', 'post'])
    const after = dump()
    for (const word of [...WORDS, 'prefers mornings', 'will call back', 'her letter']) {
      expect(after.includes(word), word).toBe(false)
      expect(after.includes(Buffer.from(word).toString('hex')), `${word} in bytes`).toBe(false)
    }
    // Others keep what is theirs.
    expect(after).toContain('ada@erase.example')
    expect(after).toContain('knows [erased] from school')
    const round1 = await screenRound(t.ines, round, { tab: 'clear' })
    expect(round1.figures).toEqual(before.figures)
    expect(round1.page.total).toBe(before.page.total)
    expect(round1.page.people.map((p) => p.name)).toContain('Erased person')
    await expect(roundFile(t.ines, round, 'phone')).rejects.toThrow(/withdrawn/)
    const { files } = await openRound(t.ines, round)
    expect(files.find((f) => f.channel === 'phone')).toMatchObject({ withdrawnAt: expect.any(String), rows: expect.any(Number) })
    const page = await openPerson(t.ines, person)
    expect(page).toMatchObject({ state: 'erased', addresses: [] })
    expect(page.came.flatMap((row) => row.cells)).toEqual([])
    expect(page.ledger[0]).toMatchObject({ title: 'Erased on request', by: t.ines.name })
    expect(page.ledger.filter((e) => e.kind === 'contact')).toHaveLength(1)
    const { counts } = (await batchAccount(t.ines, (await t.app('batch').where({ file_name: 'people.csv' }).first('id')).id)) as never
    expect(counts).toMatchObject({ new: 3 })
    await closeRound(t.ines, round)
  })

  test('is caught when they come in again, by what stays of them', async () => {
    await broughtIn(t.ines, 'again.csv', `${HEAD}X7,Wilma Q,,w.quillfeather@erase.example,0113 496 0321,@Quillfeather,,,,\n`)
    const again = await openPerson(t.ines, await idOf('X7'))
    expect(again.view.id).not.toBe(person)
    expect(again.view.reach).toEqual({ email: 'closed', phone: 'closed', post: 'none', direct: 'closed' })
    expect(again.suppressions.every((s) => s.who === '')).toBe(true)
    // And can be let through by nobody.
    const next = await startRound(t.ines, await createList(t.ines, 'Again', true, [start]))
    await expect(letThrough(t.ines, next, again.view.id, 'email', 'they wrote')).rejects.toThrow(/nobody can let this through/)
    await expect(erasePerson(manager(), person)).rejects.toThrow(/no such person/)
  })

  test('takes along no address or number that somebody else has', async () => {
    const ada = await idOf('X2')
    await erasePerson(manager(), ada)
    const ben = await openPerson(t.ines, await idOf('X3'))
    expect(ben.addresses.map((a) => a.channel).sort()).toEqual(['email', 'phone', 'post'])
    // Their number is held all the same: it was hers as well, and she asked.
    expect(ben.view.reach.phone).toBe('closed')
    expect(ben.came).toHaveLength(1)
  })
})

test('a file that is still to be brought in and names them is withdrawn with the reason', async () => {
  await broughtIn(t.ines, 'zeb.csv', `${HEAD}Z1,Zebedee Longwhistle,,zebedee@erase.example,,,,,,\n`)
  const { mapped } = await import('../../support/database')
  const waiting = await mapped(t.ines, 'waiting.csv', `${HEAD}Z2,Zebedee Longwhistle,,zebedee@erase.example,,,,,,\n`)
  await erasePerson(manager(), await idOf('Z1'))
  const batch = await t.app('batch').where({ id: waiting }).first('state', 'error', 'first_rows')
  expect(batch).toMatchObject({ state: 'failed', first_rows: null })
  expect(batch.error).toMatch(/erased on request/)
  pinClock(new Date('2026-06-15T09:00:00Z'))
})

test('a workbook that waits and names them far down is withdrawn too; one that does not is left alone', async () => {
  await broughtIn(t.ines, 'yan.csv', `${HEAD}Y1,Yannick Tallowmere,,yannick@erase.example,,,,,,\n`)
  const sheet = (last: string[]) =>
    workbook([
      {
        name: 'Visitors',
        rows: [['Name', 'Email'], ...Array.from({ length: 300 }, (_, i) => [`Visitor ${i}`, `v${i}@fair.example`]), last]
          .map((cells, i) => sheetRow(i + 1, cells))
          .join(''),
      },
    ])
  const wait = async (name: string, last: string[]) => receiveFile(t.ines, { name, bytes: readFileSync(await sheet(last)), kind: 'people' })
  const theirs = await wait('fair.xlsx', ['yannick TALLOWMERE', 'y.t@fair.example'])
  const others = await wait('other-fair.xlsx', ['Somebody Else', 'else@fair.example'])
  const stands = async (id: number) =>
    t
      .app('batch as b')
      .join('batch_file as f', 'f.batch_id', 'b.id')
      .where('b.id', id)
      .first(
        'b.state',
        t.app.raw('f.withdrawn_at is not null as gone, (select count(*)::int from batch_file_part p where p.batch_id = b.id) as parts'),
      )
  expect(await stands(theirs)).toMatchObject({ state: 'mapping', gone: false })
  await erasePerson(manager(), await idOf('Y1'))
  expect(await stands(theirs)).toMatchObject({ state: 'failed', gone: true, parts: 0 })
  expect(await stands(others)).toMatchObject({ state: 'mapping', gone: false, parts: 1 })

  // One that comes in while they are being erased, after the others were read, is read as well.
  await broughtIn(t.ines, 'una.csv', `${HEAD}Y2,Una Tallowmere,,una.t@erase.example,,,,,,\n`)
  const una = await idOf('Y2')
  const held = await t.app.transaction()
  await held('person').where({ id: una }).forUpdate()
  const erasing = erasePerson(manager(), una)
  await expect
    .poll(
      async () =>
        (
          await t.owner.raw(
            `select count(*)::int as n from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'`,
          )
        ).rows[0].n,
    )
    .toBeGreaterThan(0)
  const late = await wait('late-fair.xlsx', ['Una Tallowmere', 'una@fair.example'])
  await held.rollback()
  await erasing
  expect(await stands(late)).toMatchObject({ state: 'failed', gone: true, parts: 0 })
})

test('the function of the database erases nobody twice, and not by somebody without it', async () => {
  await expect(t.app.raw('select erase_person(900000, array[]::bigint[])')).rejects.toThrow(/no such person to erase/)
  await expect(t.app('entry_value').update({ note: 'x' })).rejects.toThrow(/permission denied/)
  await expect(t.app('round_file').update({ bytes: Buffer.alloc(0) })).rejects.toThrow(/permission denied/)
})
