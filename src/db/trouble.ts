const FULL = ['53100', 'ENOSPC']
const AWAY = ['57P01', '57P02', '57P03', '53300', 'ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT']

/**
 * What keeps the database from doing its work: its disk is full, or it cannot be reached; null where it is neither.
 * Source of the codes: PostgreSQL manual, appendix A (53100 disk_full, class 08, 57P0x, 53300), and errno(3).
 */
export function troubleOf(error: unknown): 'full' | 'away' | null {
  const { code, message } = error as { code?: unknown; message?: unknown }
  if (FULL.includes(String(code))) return 'full'
  if (AWAY.includes(String(code)) || /^08/.test(String(code)) || /Connection terminated|Unable to acquire a connection/.test(String(message))) return 'away'
  return null
}
