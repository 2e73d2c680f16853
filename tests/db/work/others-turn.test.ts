import { beforeAll, expect, test } from 'vitest'
import { copyIn } from '@/db/copy-rows'
import { writeCsv } from '@/formats/write-csv'
import { freshDatabase, type TestDatabase } from '../../support/database'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
})

/** Counts how often somebody else who waits for this process has their turn while something is done. */
async function during(work: (turns: () => number) => Promise<unknown>): Promise<number> {
  let turns = 0
  let over = false
  const count = () => {
    if (over) return
    turns++
    setImmediate(count)
  }
  setImmediate(count)
  await work(() => turns)
  over = true
  return turns
}

const ROWS = 20_000
const TEXT = 'x'.repeat(100)

test('the process serves others after every piece of very many rows that are made and written', async () => {
  const seen: number[] = []
  await during((turns) =>
    t.app.transaction(async (trx) => {
      const rows = (function* () {
        for (let i = 0; i < ROWS; i++) {
          // A piece is some six hundred rows of this length.
          if (i % 1000 === 0) seen.push(turns())
          yield [i, TEXT]
        }
      })()
      await trx.raw('create temporary table many (n int, said text) on commit drop')
      await copyIn(trx, 'many', ['n', 'said'], rows)
      const [{ count, longest }] = (await trx.raw('select count(*)::int, max(length(said)) as longest from many')).rows
      expect({ count, longest }).toEqual({ count: ROWS, longest: TEXT.length })
    }),
  )
  expect(
    seen.every((turn, i) => i === 0 || turn > seen[i - 1]),
    seen.join(' '),
  ).toBe(true)
})

test('the process serves others while a large file is written, which is the same as one written at once', async () => {
  const rows = Array.from({ length: ROWS }, (_, i) => [String(i), i % 7 === 0 ? 'a "b", c' : '=1+1'])
  let bytes: Buffer = Buffer.alloc(0)
  const turns = await during(async () => {
    bytes = await writeCsv(['No', 'Said'], rows)
  })
  expect(turns).toBeGreaterThanOrEqual(ROWS / 1000)
  const lines = bytes.toString().split('\r\n')
  expect(lines.slice(0, 3)).toEqual(['No,Said', '0,"a ""b"", c"', `1,'=1+1`])
  expect([lines.length, lines.at(-1)]).toEqual([ROWS + 2, ''])
})
