import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { copyIn, copyRows } from '@/db/copy-rows'
import { insertRows } from '@/db/insert-rows'
import { lookAt } from '@/usecases/lists/list-readers'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { type News, subscribeNews } from '@/usecases/team/news'
import { recordContact } from '@/usecases/contact/record-contact'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { runUndo } from '@/usecases/intake/run-undo'
import { commentOn } from '@/usecases/lists/comment-on'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
})

const start: Line = { id: 's', verb: 'start', off: false, batch: null }

async function until(what: () => boolean): Promise<void> {
  for (let i = 0; i < 200 && !what(); i++) await new Promise((resolve) => setTimeout(resolve, 50))
  expect(what()).toBe(true)
}

test('open pages are told of editions and changes; of a private list nobody but its owner', async () => {
  const [ines, tam]: News[][] = [[], []]
  const close = [
    subscribeNews(
      t.ines,
      (news) => ines.push(news),
      () => {},
    ),
    subscribeNews(
      t.tam,
      (news) => tam.push(news),
      () => {},
    ),
  ]
  // The first news comes once the desk listens.
  for (let i = 0; i < 30 && (ines.length === 0 || tam.length === 0); i++) {
    await broughtIn(t.ines, 'one.csv', `Name,Email\nMaud Ellery${i},m${i}@example.org\n`)
    await new Promise((resolve) => setTimeout(resolve, 500))
  }
  const shared = await createList(t.ines, 'Shared', true)
  const mine = await createList(t.ines, 'Mine alone', false)
  await saveEdition(t.tam, shared, 1, [start])
  await until(() => ines.some((n) => n.is === 'edition' && n.list === shared && n.edition === 2))
  expect(ines).toContainEqual({ is: 'edition', list: shared, edition: 2, by: 'Tam Reyes', mine: false })
  expect(tam).toContainEqual({ is: 'edition', list: shared, edition: 2, by: 'Tam Reyes', mine: true })
  await until(() => ines.some((n) => n.is === 'edition' && n.list === mine))
  expect(tam.some((n) => n.is === 'edition' && n.list === mine)).toBe(false)
  // Who came to look, and what was said, is for those who see the list; neither is taken for the other.
  await lookAt(t.tam, shared, false)
  await until(() => ines.some((n) => n.is === 'here' && n.list === shared))
  expect(ines.some((n) => n.is === 'talk')).toBe(false)
  await commentOn(t.tam, shared, 's', 'All of them?')
  await until(() => ines.some((n) => n.is === 'talk' && n.list === shared))
  await lookAt(t.ines, mine, false)
  await until(() => ines.some((n) => n.is === 'here' && n.list === mine))
  expect(tam.some((n) => 'list' in n && n.list === mine)).toBe(false)
  close[1]()
  const before = tam.length
  const { id } = await t.app('person').first('id')
  const heard = ines.length
  await recordContact(t.tam, id, { channel: 'phone', result: 'spoke' })
  await until(() => ines.length > heard)
  expect(tam).toHaveLength(before)
  close[0]()
})

test('whoever began some work is told that it has ended, and nobody else', async () => {
  const [ines, tam]: News[][] = [[], []]
  const close = [
    subscribeNews(
      t.ines,
      (news) => ines.push(news),
      () => {},
    ),
    subscribeNews(
      t.tam,
      (news) => tam.push(news),
      () => {},
    ),
  ]
  const id = await broughtIn(t.ines, 'told.csv', 'Name,Email\nTold Person,told@example.org\nOther Person,other@example.org\n')
  await until(() => ines.some((n) => n.is === 'work'))
  expect(ines.filter((n) => n.is === 'work')).toEqual([{ is: 'work', text: 'told.csv is in, all 2 rows of it.', href: `/intake/${id}` }])
  await undoBatch(t.ines, id)
  await runUndo(id)
  await until(() => ines.some((n) => n.is === 'work' && n.text === 'told.csv is undone.'))
  expect(tam.some((n) => n.is === 'work')).toBe(false)
  for (const end of close) end()
})

describe('many rows at once', () => {
  test('go in with one parameter, whatever they hold, and come back in order', async () => {
    const texts = ['plain', "quote ' and \\ back", 'two\nlines', '𝓔 🏫', 'zero \0 here', 'half \uD83C alone', '{"json": true}', '']
    const ids = await insertRows(
      t.app,
      'entry_value',
      { before: 'text', after: 'text', note: 'text' },
      texts.map((note) => ({ note })),
      { returning: 'id' },
    )
    const rows = await t.app('entry_value').whereIn('id', ids).orderBy('id').select('id', 'before', 'note')
    expect(rows.map((r) => r.id)).toEqual(ids)
    expect(rows.map((r) => r.note)).toEqual(texts.map((text) => text.replace('\0', '').replace('half \uD83C', 'half \uFFFD')))
    expect(rows.every((r) => r.before === null)).toBe(true)
  })
  test('are read by COPY as they stand, over any borders of what arrives', async () => {
    const seen: unknown[] = []
    await t.app.transaction((trx) =>
      copyRows(
        trx,
        `select n::int8 * 4294967297, n::int4, case when n % 3 = 0 then null else n / 4.0 end::float8, n % 2 = 0, repeat('é', n % 50), array['a', 'b' || n] from generate_series(1, 5000) n order by n`,
        (row) => {
          seen.push([row.int8(), row.int4(), row.float8(), row.bool(), row.text(), row.texts()])
        },
      ),
    )
    expect(seen).toHaveLength(5000)
    expect(seen).toEqual(
      Array.from({ length: 5000 }, (_, i) => [
        (i + 1) * 4294967297,
        i + 1,
        (i + 1) % 3 === 0 ? null : (i + 1) / 4,
        (i + 1) % 2 === 0,
        'é'.repeat((i + 1) % 50),
        ['a', `b${i + 1}`],
      ]),
    )
  })

  test('are written by COPY as they stand, over any borders of the pieces', async () => {
    const texts = ['plain', 'tab\there', 'back\\slash \\N \\.', 'two\nlines\r\n', '𝓔 🏫', '', null]
    const rows = Array.from(
      { length: 9000 },
      (_, i) => [i, texts[i % texts.length], i % 2 ? JSON.stringify({ said: texts[i % texts.length] }) : null] as const,
    )
    const back = await t.app.transaction(async (trx) => {
      await trx.raw('create temporary table written (n int, words text, object jsonb) on commit drop')
      await copyIn(trx, 'written', ['n', 'words', 'object'], rows)
      return trx('written').orderBy('n').select()
    })
    expect(back).toEqual(rows.map(([n, words, object]) => ({ n, words, object: object === null ? null : JSON.parse(object) })))
  })
  test('that COPY refuses end in an error, and nothing of them stays', async () => {
    const refused = t.app.transaction(async (trx) => {
      await copyIn(
        trx,
        'register_file',
        ['name', 'version', 'recorded_at'],
        [
          ['kept?', '2026-06-01', '2026-06-01'],
          ['no date', 'never', '2026-06-01'],
        ],
      )
    })
    await expect(refused).rejects.toThrow(/invalid input syntax for type date: "never"/)
    expect(await t.app('register_file').where({ name: 'kept?' })).toEqual([])
    const stopped = t.app.transaction(async (trx) => {
      await copyIn(
        trx,
        'register_file',
        ['name', 'version', 'recorded_at'],
        (function* () {
          yield ['kept?', '2026-06-01', '2026-06-01']
          throw new Error('made no further')
        })(),
      )
    })
    await expect(stopped).rejects.toThrow('made no further')
    expect(await t.app('register_file').where({ name: 'kept?' })).toEqual([])
  })
})
