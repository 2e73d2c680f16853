import { type ChildProcess, spawn } from 'node:child_process'
import { createReadStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { createInterface } from 'node:readline'
import type { Reading } from '@/core/match/reading'
import { outsideOfTransactions } from '@/runtime/inside-transaction'
import { nothingStored, type Shape, Unreadable } from './format'
import type { Answered, Asked } from './reader'

/** All files that are being read at once share this much memory, in megabytes: so many readers, each with its part of it. */
const BUDGET = 1024
const READERS = 2
/** What reads, started from the folder the application runs in. */
const READER = ['.', 'src', 'formats', 'reader.ts'].join('/')
/** A reader that nobody needs ends after so long, in milliseconds. */
const IDLE = 60_000

const TOO_MUCH = `The file needs more memory to be read than there is for it (${BUDGET / READERS} MB). Save it as CSV from the program it comes from, and bring that in. ${nothingStored}`

/** One process that reads files, one at a time. */
class Reader {
  busy = false
  private child: ChildProcess | null = null
  private idle: NodeJS.Timeout | null = null
  private waiting: { n: number; answer: (said: Answered) => void; died: () => void } | null = null
  private n = 0

  async ask(what: Record<string, unknown>): Promise<unknown> {
    outsideOfTransactions('a file is read')
    if (this.idle) clearTimeout(this.idle)
    const child = (this.child ??= this.start())
    child.ref()
    child.channel?.ref()
    const n = ++this.n
    try {
      const said = await new Promise<Answered>((resolve, reject) => {
        this.waiting = { n, answer: resolve, died: () => reject(new Unreadable(TOO_MUCH)) }
        child.send({ n, ...what } as Asked)
      })
      if ('unreadable' in said) throw new Unreadable(said.unreadable)
      if ('broke' in said) throw Object.assign(new Error(said.broke), { code: said.code })
      return said.value
    } finally {
      this.waiting = null
      // It keeps no process alive that has nothing else to do.
      child.unref()
      child.channel?.unref()
      this.idle = setTimeout(() => this.end(), IDLE)
      this.idle.unref()
    }
  }

  /** Gives up what is being read: the process is ended, and the next file gets another. */
  end(): void {
    this.child?.removeAllListeners()
    this.child?.kill('SIGKILL')
    this.child = null
    this.waiting?.died()
  }

  private start(): ChildProcess {
    const { PATH, HOME, TMPDIR, TZ, NODE_ENV, ARCH_REGION } = process.env
    // It is given no secret and no way to the database.
    // Not by fork: the bundler would take the file for one of its own.
    const child = spawn(process.execPath, ['--import', 'tsx', `--max-old-space-size=${BUDGET / READERS}`, READER], {
      env: Object.fromEntries(
        Object.entries({ PATH, HOME, TMPDIR, TZ, NODE_ENV, ARCH_REGION }).filter(([, value]) => value !== undefined),
      ) as NodeJS.ProcessEnv,
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    })
    child.on('message', (said) => {
      if ((said as Answered).n === this.waiting?.n) this.waiting.answer(said as Answered)
    })
    const gone = () => {
      if (this.child === child) this.child = null
      this.waiting?.died()
    }
    child.on('exit', gone)
    child.on('error', gone)
    return child
  }
}

const readers = Array.from({ length: READERS }, () => new Reader())
const turns: (() => void)[] = []

/** Waits for a reader, has it read, and lets the next in. */
async function read(what: Record<string, unknown>): Promise<unknown> {
  let reader = readers.find((r) => !r.busy)
  while (!reader) {
    await new Promise<void>((resolve) => turns.push(resolve))
    reader = readers.find((r) => !r.busy)
  }
  reader.busy = true
  try {
    return await reader.ask(what)
  } finally {
    reader.busy = false
    turns.shift()?.()
  }
}

/** Finds out what a file is, in a process of its own: however large or crafted it is, it takes no memory of this one. Throws Unreadable. */
export async function lookOutside(path: string, asked: Partial<Reading> = {}): Promise<Shape> {
  return (await read({ verb: 'look', path, asked })) as Shape
}

/** The rows of a file that was looked at, read in a process of its own. */
export async function* rowsOutside(path: string, reading: Reading, header: string[]): AsyncGenerator<string[]> {
  const into = `${path}.rows`
  try {
    await read({ verb: 'rows', path, reading, header, into })
    for await (const line of createInterface({ input: createReadStream(into, 'utf8'), crlfDelay: Number.POSITIVE_INFINITY }))
      yield JSON.parse(line) as string[]
  } finally {
    await rm(into, { force: true })
  }
}
