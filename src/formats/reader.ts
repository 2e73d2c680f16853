import { createWriteStream } from 'node:fs'
import { once } from 'node:events'
import type { Reading } from '@/core/match/reading'
import { look, rowsOf, Unreadable } from './index'

/** What the process that reads files is asked: what a file is, or all of its rows into another file, a JSON array a line. */
export type Asked = { n: number } & (
  | { verb: 'look'; path: string; asked: Partial<Reading> }
  | { verb: 'rows'; path: string; reading: Reading; header: string[]; into: string }
)
/** What it answers: the value, or why the file cannot be read, or that something broke. */
export type Answered = { n: number } & ({ value: unknown } | { unreadable: string } | { broke: string; code?: string })

const WORK = {
  look: (asked: Extract<Asked, { verb: 'look' }>) => look(asked.path, asked.asked),
  async rows({ path, reading, header, into }: Extract<Asked, { verb: 'rows' }>): Promise<null> {
    const out = createWriteStream(into)
    for await (const row of rowsOf(path, reading, header)) if (!out.write(`${JSON.stringify(row)}\n`)) await once(out, 'drain')
    out.end()
    await once(out, 'close')
    return null
  },
}

process.on('message', (asked: Asked) => {
  const answer = (said: object) => process.send?.({ n: asked.n, ...said })
  WORK[asked.verb](asked as never).then(
    (value: unknown) => answer({ value }),
    (error: Error & { code?: string }) =>
      answer(error instanceof Unreadable ? { unreadable: error.message } : { broke: error.message, code: error.code }),
  )
})
// Whoever asks is gone.
process.on('disconnect', () => process.exit(0))
