import { cpus, totalmem } from 'node:os'
import { readFileSync } from 'node:fs'

/** One measured thing: every time in milliseconds, and what was aimed at where anything was. */
export interface Measured {
  name: string
  times: number[]
  aim?: string
  /** What else belongs to it, in words. */
  note?: string
}

const sorted = (times: number[]) => [...times].sort((a, b) => a - b)
export const median = (times: number[]) => quantile(times, 0.5)
/** The value that so large a part of the times does not exceed: the nearest rank (NIST/SEMATECH e-Handbook 2.6.2). */
export function quantile(times: number[], part: number): number {
  const all = sorted(times)
  return all[Math.min(all.length - 1, Math.max(0, Math.ceil(part * all.length) - 1))]
}

const ms = (t: number) => (t >= 10_000 ? `${(t / 1000).toFixed(1)} s` : t >= 100 ? `${t.toFixed(0)} ms` : `${t.toFixed(1)} ms`)

/** The measurements as a table in Markdown. */
export function table(all: Measured[]): string {
  const rows = all.map(
    ({ name, times, aim, note }) =>
      `| ${name} | ${times.length} | ${ms(median(times))} | ${ms(quantile(times, 0.95))} | ${ms(Math.min(...times))} | ${ms(Math.max(...times))} | ${aim ?? ''} | ${note ?? ''} |`,
  )
  return ['| what | runs | median | p95 | min | max | aim | |', '|---|--:|--:|--:|--:|--:|--:|---|', ...rows].join('\n')
}

/** Jiffies of the processor that were stolen by the host, and all of them (proc(5), /proc/stat). */
export function steal(): { stolen: number; all: number } {
  const [, ...fields] = readFileSync('/proc/stat', 'utf8').split('\n')[0].split(/\s+/).map(Number)
  return { stolen: fields[7] ?? 0, all: fields.slice(0, 8).reduce((a, b) => a + b) }
}

export const machine = () => ({
  cpu: cpus()[0].model.trim(),
  cores: cpus().length,
  memory: `${Math.round(totalmem() / 2 ** 30)} GiB`,
  node: process.version,
})
