import { mkdtemp, readdir, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const DAY = 86_400_000
/** What another machine that shares the folder may just have made is left alone for so long. */
const YOUNG = 5 * 60_000

/** Makes a folder for files of the moment, and gives its path: whoever makes it takes it away. It is named after the process, so that what one that was killed left behind is known. */
export function tempFolder(kind: 'file' | 'entry' | 'book'): Promise<string> {
  return mkdtemp(join(tmpdir(), `arch-${kind}-${process.pid}-`))
}

function runs(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as { code?: string }).code === 'EPERM'
  }
}

/** Takes away what processes that are gone left behind, as after an upload that was cut off with the application. Gives how many folders. */
export async function sweepFolders(at = Date.now()): Promise<number> {
  let swept = 0
  for (const name of await readdir(tmpdir())) {
    const [, pid] = /^arch-(?:file|entry|book)-(?:(\d+)-)?/.exec(name) ?? []
    if (!name.startsWith('arch-') || !/^arch-(file|entry|book)-/.test(name)) continue
    const about = await stat(join(tmpdir(), name)).catch(() => null)
    if (!about) continue
    const age = at - about.mtimeMs
    if (age < YOUNG || (age < DAY && (pid === undefined || runs(Number(pid))))) continue
    await rm(join(tmpdir(), name), { recursive: true, force: true }).then(
      () => swept++,
      () => {},
    )
  }
  return swept
}
