import { expect, test } from 'vitest'
import { db } from '@/db/connection'
import { askEngine } from '@/engine/client'
import { besideTransaction } from '@/runtime/inside-transaction'
import { fillingSource } from '@/sources/http-source'
import { momentNow } from '@/usecases/screening/screening-now'
import { freshDatabase } from '../../support/database'

const t = await freshDatabase()

/** A lock is never held while another process takes its time. The guards themselves; every other test of the database runs under them. */
test('inside a transaction neither the engine, nor a source, nor another connection is asked', async () => {
  await t.app.transaction(async (trx) => {
    await expect(askEngine('list', { moment: momentNow() } as never)).rejects.toThrow('the engine is asked inside a transaction')
    await expect(fillingSource.check([])).rejects.toThrow('a source is asked inside a transaction')
    expect(() => db()).toThrow('the pool is asked for inside a transaction')
    await trx.transaction(async () => expect(() => db()).toThrow('inside a transaction'))
    expect((await besideTransaction(() => db().raw('select 1 as one'))).rows).toEqual([{ one: 1 }])
  })
  expect((await db().raw('select 2 as two')).rows).toEqual([{ two: 2 }])
})

test('what goes on beside a transaction, and after it, is outside', async () => {
  let later: Promise<unknown> = Promise.resolve()
  await t.app.transaction(async () => {
    later = besideTransaction(async () => {
      await new Promise((resolve) => setTimeout(resolve, 50))
      return db().raw('select 3 as three')
    })
  })
  expect(await later).toMatchObject({ rows: [{ three: 3 }] })
})
