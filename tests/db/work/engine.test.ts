import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { listAccount } from '@/core/lists/account'
import { screeningAccount } from '@/core/screening/account'
import { newRule } from '@/core/screening/new-rule'
import { firstPolicy, RULES, type RuleName } from '@/core/screening/rules'
import { connect } from '@/db/connection'
import { readEverybody } from '@/db/directory/read-people'
import { ReadModel } from '@/engine/read-model'
import { settings } from '@/runtime/settings'
import { batchOf } from '@/usecases/intake/batch-for'
import { mergePeople } from '@/usecases/directory/merge-people'
import { receiveFile } from '@/usecases/intake/receive-file'
import { recordContact } from '@/usecases/contact/record-contact'
import { runBatch } from '@/usecases/intake/run-batch'
import { takeBackMerge } from '@/usecases/directory/take-back-merge'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { broughtIn, type TestDatabase } from '../../support/database'
import { said, saidOfOthers } from '../../support/engine'
import { momentFor, page } from '../../support/lines'
import { startBatch } from '@/usecases/intake/start-batch'
import { runUndo } from '@/usecases/intake/run-undo'
import { suppress } from '@/usecases/screening/suppress'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { t, engine } from './hundred-and-twenty'

/** The rules of the first policy, and one more of every kind that may stand twice. */
const EVERY_RULE = firstPolicy()
for (const kind of Object.keys(RULES) as RuleName[]) if (RULES[kind].optional) EVERY_RULE.push(newRule(kind, EVERY_RULE))

test('after any history the engine says what one that has just read everything says', async () => {
  const ids: number[] = (await t.app('person').select('id').orderBy('id')).map((p) => p.id)
  const step = fc.oneof(
    fc.record({ do: fc.constant('contact' as const), who: fc.nat(119), channel: fc.constantFrom('email', 'phone', 'post', 'direct') }),
    fc.record({ do: fc.constant('suppress' as const), who: fc.nat(119) }),
    fc.record({ do: fc.constant('suppress address' as const), who: fc.nat(99) }),
    fc.record({ do: fc.constant('lift' as const), which: fc.nat(50) }),
    fc.record({
      do: fc.constant('change' as const),
      who: fc.nat(119),
      role: fc.constantFrom('Head of estates', 'Nurse'),
      town: fc.constantFrom('Copsewick', 'Thornmouth'),
    }),
    fc.record({ do: fc.constant('withdraw' as const), who: fc.nat(119) }),
    fc.record({
      do: fc.constant('custom' as const),
      who: fc.nat(119),
      custom: fc.constantFrom('{}', '{"1":"yes"}', '{"1":"no","2":"12"}'),
    }),
    fc.record({
      do: fc.constant('organisation fields' as const),
      who: fc.nat(6),
      details: fc.constantFrom('{}', '{"-23":"company"}', '{"-24":"40"}'),
    }),
    fc.record({
      do: fc.constant('premises' as const),
      house: fc.oneof(fc.constantFrom(0, 3), fc.nat(119)),
      owner: fc.constantFrom('Engine Number3', 'Org 2', 'Nobody Known'),
      value: fc.constantFrom('', '400000'),
    }),
    // Owners and residents move, and so do buildings: what pointed at them points elsewhere.
    fc.record({
      do: fc.constant('change' as const),
      who: fc.constant(3),
      role: fc.constant('Owner'),
      town: fc.constantFrom('Copsewick', ''),
    }),
    fc.record({ do: fc.constant('move premises' as const), house: fc.constantFrom(0, 3), to: fc.constantFrom(0, 3, 6) }),
    fc.record({ do: fc.constant('take premises out' as const) }),
    fc.record({ do: fc.constant('check' as const), who: fc.nat(99) }),
    fc.record({ do: fc.constant('organisation' as const), town: fc.constantFrom('Upper Marle', 'Great Pellow') }),
    fc.record({ do: fc.constant('newcomer' as const), who: fc.nat(9) }),
    fc.record({ do: fc.constant('merge' as const), stays: fc.nat(20), goes: fc.nat(20) }),
    fc.record({ do: fc.constant('take back a merge' as const) }),
    fc.record({ do: fc.constant('undo the last file' as const) }),
    fc.record({ do: fc.constant('catch up' as const) }),
  )
  let run = 0
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 10 }), page, async (steps, lines) => {
      run++
      for (const [i, s] of steps.entries()) {
        if (s.do === 'contact') await recordContact(t.tam, ids[s.who], { channel: s.channel, result: 'sent' }).catch(() => {})
        if (s.do === 'suppress')
          await suppress(t.tam, { person: ids[s.who] }, { reason: 'other', channels: ['email', 'phone'], word: 'a test' })
        if (s.do === 'suppress address')
          await suppress(t.tam, { text: `e${s.who}@example.org` }, { reason: 'opt-out', channels: ['email'], word: 'a test' })
        if (s.do === 'lift') {
          const one = await t
            .app('suppression_standing')
            .offset(s.which % 20)
            .first('id')
          if (one) await liftSuppression(t.ines, one.id, 'a test')
        }
        if (s.do === 'change')
          await broughtIn(
            t.ines,
            'change.csv',
            `Id,Name,Role,Town,Email\nE${s.who},Engine Number${s.who},${s.role},${s.town},x${run}-${i}@example.org\n`,
          )
        if (s.do === 'custom') await t.app('person').where({ id: ids[s.who] }).update({ custom: s.custom })
        if (s.do === 'withdraw')
          await t
            .app('person')
            .where({ id: ids[s.who], merged_into: null })
            .update({ state: run % 2 ? 'withdrawn' : 'live' })
            .catch(() => {})
        if (s.do === 'organisation') await t.app('organisation').where({ id: 1 }).update({ town: s.town })
        if (s.do === 'organisation fields')
          await t
            .app('organisation')
            .where({ id: s.who + 1 })
            .update({ details: s.details })
        if (s.do === 'premises') {
          const id = await receiveFile(t.ines, {
            name: 'premises.csv',
            bytes: Buffer.from(
              `Id,Building,Street,Town,Postcode,Latitude,Longitude,Owner,Value,Owner: street,Owner: postcode\nP${s.house},House ${s.house},${s.house} Mill Lane,Thornmouth,PW1 2AB,55.3,1.5,${s.owner},${s.value},3 Mill Lane,PW1 2AB\n`,
            ),
            kind: 'premises',
          })
          const batch = await batchOf(id)
          await startBatch(t.ines, id, batch, { again: true })
          await runBatch(id)
        }
        if (s.do === 'move premises') {
          const { address_key } = (await t.app('person').where({ id: ids[s.to] }).first('address_key')) ?? {}
          await t
            .app('premises')
            .where({ outside_id: `P${s.house}` })
            .update({ address_key })
        }
        if (s.do === 'take premises out')
          await t
            .app('premises')
            .update({ state: run % 2 ? 'withdrawn' : 'live' })
            .catch(() => {})
        if (s.do === 'check')
          await t.app.raw(
            `insert into email_check select distinct key, 'verified', 'a test', now(), 'x', 'x' from address where value = ? on conflict (key) do update set state = 'uncertain'`,
            [`e${s.who}@example.org`],
          )
        if (s.do === 'newcomer')
          await broughtIn(
            t.ines,
            'newcomer.csv',
            `Id,Name,Role,Organisation,Email\nN${s.who},New Comer${s.who},Bursar,Org ${s.who},n${s.who}@example.org\n`,
          )
        if (s.do === 'merge' && s.stays !== s.goes) await mergePeople(t.ines, ids[s.stays], ids[s.goes]).catch(() => {})
        if (s.do === 'take back a merge') {
          const merged = await t.app('person').where({ state: 'merged' }).orderBy('id', 'desc').first('id')
          if (merged) await takeBackMerge(t.ines, merged.id).catch(() => {})
        }
        if (s.do === 'undo the last file') {
          const last = await t.app('batch').whereNot({ file_name: 'people.csv' }).where({ state: 'done' }).orderBy('id', 'desc').first('id')
          const begun =
            last &&
            (await undoBatch(t.ines, last.id).then(
              () => true,
              () => false,
            ))
          if (begun) await runUndo(last.id)
        }
        if (s.do === 'catch up') await engine.model.catchUp()
      }
      await engine.model.catchUp()
      const fresh = new ReadModel(t.app)
      await fresh.catchUp()
      expect(said(engine.model)).toEqual(said(fresh))
      expect(saidOfOthers(engine.model)).toEqual(saidOfOthers(fresh))
      const figures = (model: ReadModel) => {
        const list = listAccount(lines, model.directory.people, model.answers, momentFor(model.columns))
        return [
          list.figures,
          screeningAccount(list.on, EVERY_RULE, model.columns, { ...momentFor(model.columns), exceptRounds: [], letThrough: [] }).figures,
        ]
      }
      expect(figures(engine.model)).toEqual(figures(fresh))
    }),
    { numRuns: 25 },
  )
}, 120_000)

test('who was at premises that moved is there no more, and premises are not owned by who moved away', async () => {
  const at = async (id: number) => {
    await engine.model.catchUp()
    const { people, premises } = engine.model.directory
    const n = people.at.at(people.numberFor(id) as number)
    return n < 0 ? null : premises.idAt(n)
  }
  await broughtIn(t.ines, 'mover.csv', 'Id,Name,Address,Town,Postcode\nM1,Mo Ver,1 Moving Row,Thornmouth,PW1 9MV\n')
  const { id } = await t.app('person').where({ name: 'Mo Ver' }).first('id')
  const file = await receiveFile(t.ines, {
    name: 'moving.csv',
    bytes: Buffer.from(
      'Id,Building,Street,Town,Postcode,Owner,Owner type,Owner: street,Owner: town,Owner: postcode\nMP,Moving House,1 Moving Row,Thornmouth,PW1 9MV,Mo Ver,individual,1 Moving Row,Thornmouth,PW1 9MV\n',
    ),
    kind: 'premises',
  })
  await startBatch(t.ines, file, await batchOf(file), { again: true })
  await runBatch(file)
  const premises = (await t.app('premises').where({ outside_id: 'MP' }).first('id')).id
  const owner = async () => {
    await engine.model.catchUp()
    const { people, premises: all } = engine.model.directory
    const n = all.ownerPerson.at(all.numberFor(premises) as number)
    return n < 0 ? null : people.idAt(n)
  }
  expect([await at(id), await owner()]).toEqual([premises, id])
  await t.app('premises').where({ id: premises }).update({ address_key: 'somewhere else' })
  expect([await at(id), await owner()]).toEqual([null, id])
  await t.app('person').where({ id }).update({ address_key: 'far away' })
  expect(await owner()).toBeNull()
})

describe('the change log', () => {
  const rename = (knex: TestDatabase['app'], id: number, role: string) => knex('person').where({ id }).update({ role })
  const roleOf = (id: number) => engine.model.columns.role.get(engine.model.columns.numberFor(id) as number)

  test('what commits out of order, and behind a long transaction, is read all the same', async () => {
    const [a, b] = (await t.app('person').where({ state: 'live' }).orderBy('id').limit(2).select('id')).map((p) => p.id)
    const first = connect(settings().APP_DATABASE_URL, 1)
    const long = connect(settings().APP_DATABASE_URL, 1)
    const idle = await long.transaction()
    await idle.raw('select pg_current_xact_id()')
    const open = await first.transaction()
    await rename(open as never, a, 'opened first')
    await rename(t.app, b, 'committed first')
    await engine.model.catchUp()
    expect([roleOf(a), roleOf(b)]).not.toContain('opened first')
    expect(roleOf(b)).toBe('committed first')
    await open.commit()
    await engine.model.catchUp()
    expect(roleOf(a)).toBe('opened first')
    await idle.rollback()
    await first.destroy()
    await long.destroy()
  })

  test('a suppression and an address that cross each other unseen both take effect', async () => {
    const suppressing = await t.app.transaction()
    const { writeSuppressions } = await import('@/usecases/screening/suppress-people')
    await writeSuppressions(suppressing, [
      {
        of: { email: 'crossing@example.org' },
        reason: 'opt-out',
        channels: ['email'],
        since: new Date(0),
        until: null,
        word: 'a test',
        actor: t.tam.id,
      },
    ])
    await broughtIn(t.ines, 'crossing.csv', 'Name,Email\nCross Ing,crossing@example.org\n')
    await engine.model.catchUp()
    await suppressing.commit()
    await engine.model.catchUp()
    const { id } = await t.app('person').where({ name: 'Cross Ing' }).first('id')
    expect(engine.model.columns.addressSuppressed.get(engine.model.columns.numberFor(id) as number)?.[0]).toHaveLength(1)
  })

  test('a fact that changes leaves contacts as they are; contacts, and merges, which move them, are read anew', async () => {
    const [a, b] = (await t.app('person').where({ state: 'live' }).orderBy('id', 'desc').limit(2).select('id')).map((p) => p.id)
    const marked = async (work: () => Promise<unknown>) => {
      const before = (await t.owner('change_log').max('seq as seq').first())?.seq ?? 0
      await work()
      const marks: { what: string; ids: number[] }[] = await t
        .owner('change_log')
        .where('seq', '>', before)
        .orderBy('seq')
        .select('what', 'ids')
      await engine.model.catchUp()
      return marks.flatMap(({ what, ids }) => (what === 'contact' ? ids : []))
    }
    const contacts = (id: number) => engine.model.columns.contacts.count(engine.model.columns.numberFor(id) as number)
    const own = contacts(a)
    expect(await marked(() => rename(t.app, a, 'Another role'))).toEqual([])
    expect([contacts(a), roleOf(a)]).toEqual([own, 'Another role'])
    expect(await marked(() => recordContact(t.ines, a, { channel: 'phone', result: 'no answer' }))).toEqual([a])
    expect(contacts(a)).toBe(own + 1)
    const [stays, goes] = [contacts(b), contacts(a)]
    expect(new Set(await marked(() => mergePeople(t.ines, b, a)))).toEqual(new Set([a, b]))
    expect(contacts(b)).toBe(stays + goes)
    expect(new Set(await marked(() => takeBackMerge(t.ines, a)))).toEqual(new Set([a, b]))
    expect([contacts(a), contacts(b)]).toEqual([goes, stays])
    // Who was on a list when somebody looked before counts as themselves again.
    expect(engine.model.columns.numbersNow([a]).toArray()).toEqual([engine.model.columns.numberFor(a)])
  })

  test('a statement that changes very many records writes one mark for all', async () => {
    const before = (await t.owner('change_log').max('seq as seq').first())?.seq
    await t
      .app('batch_row')
      .insert([])
      .catch(() => {})
    await t.owner.raw(
      `insert into batch (id, kind, file_name, reading, header, mapping, actor_id, created_at) values (99999, 'people', 'x', '{}', '{}', '[]', 'x', now())`,
    )
    await t.owner.raw(`insert into batch_row (batch_id, row_no, raw, person_id) select 99999, n, '{}', n from generate_series(1, 6000) n`)
    const marks = await t.owner('change_log').where('seq', '>', before).select('what', 'ids')
    expect(marks).toEqual([{ what: 'person', ids: null }])
    await engine.model.catchUp()
    expect(engine.model.ready).toBe(true)
  })
})

test('where what is read beside the rest cannot be begun, reading fails as a whole and the process goes on', async () => {
  const unheard: unknown[] = []
  const hear = (reason: unknown) => unheard.push(reason)
  process.on('unhandledRejection', hear)
  const broken = { raw: () => Promise.reject(new Error('the connection broke')) } as never
  await expect(
    t.app.transaction((trx) => t.app.transaction((addresses) => readEverybody(trx, { addresses, contacts: broken }))),
  ).rejects.toThrow('the connection broke')
  await new Promise((resolve) => setImmediate(resolve))
  process.off('unhandledRejection', hear)
  expect(unheard).toEqual([])
  const fresh = new ReadModel(t.app)
  await fresh.catchUp()
  expect(fresh.ready).toBe(true)
})
