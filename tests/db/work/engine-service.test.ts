import { suppress } from '@/usecases/screening/suppress'
import { describe, expect, test } from 'vitest'
import { Directory } from '@/core/columns/directory'
import { readied } from '@/core/criteria/wording'
import { askEngine, type EngineAway } from '@/engine/client'
import { inTurns } from '@/engine/in-turns'
import { makeReady } from '@/engine/make-ready'
import type { ReadModel } from '@/engine/read-model'
import { settings } from '@/runtime/settings'
import { findPeople } from '@/usecases/directory/find-people'
import { listAccountFor } from '@/usecases/lists/list-account'
import { peoplePage } from '@/usecases/directory/people-page'
import { recordContact } from '@/usecases/contact/record-contact'
import { broughtIn } from '../../support/database'
import { MOMENT } from '../../support/people'
import { t, engine } from './hundred-and-twenty'

describe('what is worked out in turns', () => {
  const parts = [1, 2, 3, 4]

  test('lets others in between the parts', async () => {
    let others = 0
    const beside = setInterval(() => others++, 0)
    const model = { directory: { version: 1 } } as ReadModel
    const { done } = await inTurns(
      model,
      parts,
      () => 10,
      (ten, part) => {
        const until = performance.now() + 5
        while (performance.now() < until);
        return ten * part
      },
    )
    clearInterval(beside)
    expect(done).toEqual([10, 20, 30, 40])
    expect(others).toBeGreaterThan(1)
  })

  test('is of one moment: begun again when the directory changes, and in one go when it never stops changing', async () => {
    const directory = { version: 1 }
    const model = { directory } as ReadModel
    let begun = 0
    const once = await inTurns(
      model,
      parts,
      () => {
        begun++
        return directory.version
      },
      (version, part) => {
        if (begun === 1 && part === 2) setImmediate(() => directory.version++)
        return version
      },
    )
    expect([begun, once.done]).toEqual([2, [2, 2, 2, 2]])
    begun = 0
    const always = setInterval(() => directory.version++, 0)
    const restless = await inTurns(
      model,
      parts,
      () => {
        begun++
        return directory.version
      },
      (version) => {
        const until = performance.now() + 3
        while (performance.now() < until);
        return version
      },
    )
    clearInterval(always)
    expect(begun).toBeLessThanOrEqual(3)
    expect(new Set(restless.done).size).toBe(1)
  })
})

describe('what first questions would wait for', () => {
  const many = () => {
    const directory = new Directory()
    for (let n = 0; n < 2500; n++) directory.people.role.set(n, `Estates lead of site ${n}`)
    directory.organisations.name.set(0, 'Thornmouth School')
    return directory
  }

  test('is made ready after the start, others being answered in between', async () => {
    const directory = many()
    let others = 0
    const beside = setInterval(() => others++, 0)
    expect([readied(directory.people.role, 0), readied(directory.organisations.name, 0)]).toEqual([false, false])
    await makeReady({ directory } as ReadModel)
    clearInterval(beside)
    expect([readied(directory.people.role, 0), readied(directory.organisations.name, 0)]).toEqual([true, true])
    expect(others).toBeGreaterThan(0)
  })

  test('is left where the directory was read anew meanwhile', async () => {
    const old = many()
    let looked = 0
    await makeReady({
      get directory() {
        return looked++ < 2 ? old : new Directory()
      },
    } as ReadModel)
    expect([readied(old.people.role, 0), readied(old.organisations.name, 0)]).toEqual([false, false])
  })
})

describe('the engine as a service', () => {
  const request = {
    lines: [{ id: 'a', verb: 'start' as const, off: false, batch: null }],
    named: {},
    moment: MOMENT,
    view: { tab: 'on' as const },
    page: { offset: 0, limit: 5 },
  }

  test('answers whoever holds the token, and nobody else', async () => {
    const answer = await askEngine('list', request)
    expect(answer.ids).toHaveLength(5)
    expect(answer.behind).toBeNull()
    const refused = await fetch(`http://127.0.0.1:${settings().ENGINE_PORT}/list`, { method: 'POST', body: JSON.stringify(request) })
    expect(refused.status).toBe(403)
  })

  test('the rows of a page say the same by what the engine told at a glance as they do from the database', async () => {
    for (const [i, channel] of ['email', 'phone', 'direct'].entries())
      await recordContact(t.tam, i + 2, { channel, result: 'sent' }).catch(() => {})
    await suppress(t.tam, { person: 3 }, { reason: 'other', channels: ['email', 'phone'], word: 'a test' })
    await engine.model.catchUp()
    const { people } = await findPeople(t.ines, '')
    expect(people.length).toBeGreaterThan(20)
    expect(people.some((p) => p.strip.length > 0) && people.some((p) => Object.values(p.reach).includes('closed'))).toBe(true)
    expect(people).toEqual((await peoplePage(people.map((p) => p.id))).map(({ view }) => view))
    const { page } = await listAccountFor(t.ines, { lines: request.lines, view: { tab: 'on' } })
    expect(page.records.map((r) => r.person)).toEqual((await peoplePage(page.records.map((r) => r.id))).map(({ view }) => view))
  })

  test('a write is in the answer to the very next question', async () => {
    for (let i = 0; i < 5; i++) {
      const before = (await askEngine('list', request)).figures.totals.balance
      await broughtIn(t.ines, 'one.csv', `Name,Email\nJust In${i},just-in-${i}@example.org\n`)
      expect((await askEngine('list', request)).figures.totals.balance).toBe(before + 1)
    }
  })

  test('an older question of the same screen is overtaken by a newer one', async () => {
    // While every connection is taken, questions wait to be brought up to date.
    const held = await Promise.all(Array.from({ length: 8 }, () => t.app.transaction()))
    const asked = Promise.allSettled([1, 2, 3].map(() => askEngine('list', { ...request, screen: 'me' })))
    await new Promise((resolve) => setTimeout(resolve, 300))
    await Promise.all(held.map((trx) => trx.rollback()))
    const answers = await asked
    expect(answers.map((a) => (a.status === 'rejected' ? (a.reason as EngineAway).why : 'answered')).sort()).toEqual([
      'answered',
      'overtaken',
      'overtaken',
    ])
  })

  test('when the database cannot be heard it answers all the same, marked as of when it last could', async () => {
    const held = await Promise.all(Array.from({ length: 8 }, () => t.app.transaction()))
    try {
      const answer = await askEngine('list', request)
      expect(answer.behind).toBeGreaterThan(Date.now() - 60_000)
      expect(answer.ids).toHaveLength(5)
    } finally {
      await Promise.all(held.map((trx) => trx.rollback()))
    }
    await engine.model.catchUp()
    expect((await askEngine('list', request)).behind).toBeNull()
  })

  test('people withdrawn are gone from every answer', async () => {
    const { id } = await t.app('person').where({ name: 'Just In1' }).first('id')
    await t.app('person').where({ id }).update({ state: 'withdrawn' })
    const answer = await askEngine('list', { ...request, page: { offset: 0, limit: 10_000 } })
    expect(answer.ids).not.toContain(id)
    expect(answer.ids).toHaveLength(answer.figures.tabs.directory)
  })
})
