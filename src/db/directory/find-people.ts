import { db } from '@/db/connection'

/** Whoever has an email, phone, profile link or handle that a word is part of; nobody where it cannot be part of one. */
export async function havingAddress(word: string): Promise<number[]> {
  if (!/[@\d]/.test(word) || word.length < 3) return []
  const like = `%${word.replace(/[%_\\]/g, '')}%`
  const rows = await db()('address as a')
    .join('person as p', 'p.id', 'a.person_id')
    .where('p.state', 'live')
    .whereIn('a.channel', ['email', 'phone', 'direct'])
    .where('a.value', 'like', like)
    .limit(MOST_ADDRESSES)
    .distinct('a.person_id as id')
  return rows.map((row) => row.id)
}

/** While the engine is away: from the database, and counted only as far as it goes. */
export async function findByDatabase(
  words: { text: string; ids: number[] }[],
  offset: number,
  limit: number,
): Promise<{ total: number; ids: number[]; behind: null }> {
  const query = db()('person as p').leftJoin('organisation as o', 'o.id', 'p.organisation_id').where('p.state', 'live')
  for (const { text, ids } of words) {
    const like = `%${text.replace(/[%_\\]/g, '')}%`
    query.where((some) =>
      some
        .where('p.sort_key', 'like', like)
        .orWhere('o.name_key', 'like', like)
        .orWhereILike('p.role', like)
        .orWhereILike('p.town', like)
        .orWhereRaw('p.id = any(?::bigint[])', [ids]),
    )
  }
  const found = await query
    .orderByRaw('p.sort_key, p.id')
    .offset(offset)
    .limit(limit + 1)
    .select('p.id')
  return { total: offset + found.length, ids: found.slice(0, limit).map((row) => row.id), behind: null }
}

/** How many emails or phones a typed word may be part of before more letters are needed to tell them apart. */
export const MOST_ADDRESSES = 20_000
