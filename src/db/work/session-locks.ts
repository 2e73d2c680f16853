import pg from 'pg'

const KEY = `hashtextextended($1, 0)`
/** How often somebody who waits for a lock asks again, in milliseconds. */
const PACE = 200

/**
 * Locks that a process holds by a connection of its own, and that end with it: PostgreSQL lets go of them when the process dies,
 * however it does, and keeps them for one that is only paused. A connection holds each of them once, so within the process they are
 * kept apart here. When the connection is lost the locks are, so `lost` is called and whoever relies on them must end.
 */
export class SessionLocks {
  private readonly held = new Set<string>()
  private closing = false

  private constructor(private readonly client: pg.Client) {}

  static async open(connectionString: string, lost: (why: string) => void): Promise<SessionLocks> {
    const client = new pg.Client({ connectionString, application_name: 'locks', keepAlive: true })
    const locks = new SessionLocks(client)
    client.on('error', (error) => !locks.closing && lost(error.message))
    client.on('end', () => !locks.closing && lost('the connection ended'))
    await client.connect()
    return locks
  }

  /** Takes a lock if nobody has it, in this process or another. */
  async take(name: string): Promise<boolean> {
    if (this.held.has(name)) return false
    this.held.add(name)
    try {
      const { rows } = await this.client.query(`select pg_try_advisory_lock(${KEY}) as taken`, [name])
      if (!rows[0].taken) this.held.delete(name)
      return rows[0].taken
    } catch (error) {
      this.held.delete(name)
      throw error
    }
  }

  async letGo(name: string): Promise<void> {
    await this.client.query(`select pg_advisory_unlock(${KEY})`, [name])
    this.held.delete(name)
  }

  /** Waits for a lock, does the work and lets go of it. */
  async during<T>(name: string, work: () => Promise<T>): Promise<T> {
    while (!(await this.take(name))) await new Promise((resolve) => setTimeout(resolve, PACE))
    try {
      return await work()
    } finally {
      await this.letGo(name)
    }
  }

  async close(): Promise<void> {
    this.closing = true
    await this.client.end()
  }
}
