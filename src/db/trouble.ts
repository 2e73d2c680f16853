const FULL = ['53100', 'ENOSPC']
const AWAY = [
  '57P01',
  '57P02',
  '57P03',
  '53300',
  'ECONNREFUSED',
  'ECONNRESET',
  'ECONNABORTED',
  'ENOTCONN',
  'EPIPE',
  'ETIMEDOUT',
  'EHOSTUNREACH',
  'ENETUNREACH',
]

/** How the drivers say that a connection is gone where they give no code: pg, pg-pool, knex and its pool. */
const GONE =
  /Connection (terminated|ended|closed)|connection error and is not queryable|was closed and is not queryable|closed the connection unexpectedly|timeout exceeded when trying to connect|Unable to acquire a connection|Timeout acquiring a connection|Transaction query already complete|the database system is (starting up|shutting down|in recovery mode|not yet accepting connections)/

/**
 * Returns what keeps the database from doing its work: its disk is full, or it cannot be reached; null where it is neither. An
 * error that stands for others (its cause, or several at once) is looked into.
 * Source of the codes: PostgreSQL manual, appendix A (53100 disk_full, class 08, 57P0x, 53300), and errno(3).
 */
export function troubleOf(error: unknown, depth = 0): 'full' | 'away' | null {
  if (typeof error !== 'object' || error === null || depth > 4) return null
  const { code, message, cause, errors } = error as { code?: unknown; message?: unknown; cause?: unknown; errors?: unknown }
  if (FULL.includes(String(code))) return 'full'
  if (AWAY.includes(String(code)) || /^08/.test(String(code)) || GONE.test(String(message))) return 'away'
  for (const inner of [cause, ...(Array.isArray(errors) ? errors : [])]) {
    const trouble = troubleOf(inner, depth + 1)
    if (trouble) return trouble
  }
  return null
}
