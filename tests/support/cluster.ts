import { execFileSync, spawnSync } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'

const ROOT = process.cwd()

/** A PostgreSQL cluster of its own under the test data, for tests that kill it or need an empty one. */
export class Cluster {
  readonly data: string

  constructor(
    readonly folder: string,
    private readonly secret: string,
    /** First port it tries. Clusters of tests that run side by side keep apart, so that one that is killed finds its own again. */
    private readonly firstPort: number,
  ) {
    this.data = join(ROOT, folder)
  }

  /** Starts it, making it first where it is missing; gives its owner's connection to a database. */
  start(database: string): string {
    const script = `. bin/common.sh; use_data ${this.folder} shared; start_cluster ${this.firstPort} ${database} -c fsync=off; echo "$OWNER_DATABASE_URL"`
    const out = execFileSync('bash', ['-c', script, 'bin/start'], {
      cwd: ROOT,
      env: { ...process.env, ARCH_SECRET: this.secret, DATABASE_URL: '' },
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    return out.trim().split('\n').at(-1) as string
  }

  /** Kills every process of it at once, as a machine that loses power would. */
  kill(): void {
    const pid = readFileSync(join(this.data, 'pg/postmaster.pid'), 'utf8').split('\n')[0]
    const children = spawnSync('pgrep', ['-P', pid], { encoding: 'utf8' }).stdout.split('\n').filter(Boolean)
    spawnSync('kill', ['-9', pid, ...children])
    const until = Date.now() + 10_000
    while (spawnSync('kill', ['-0', pid]).status === 0 && Date.now() < until)
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 50)
  }

  remove(): void {
    spawnSync('bash', ['-c', `. bin/common.sh; DATA=${this.data}; stop_cluster`, 'bin/start'], { cwd: ROOT })
    rmSync(this.data, { recursive: true, force: true })
  }
}
