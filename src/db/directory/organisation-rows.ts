import { organisationKey } from '@/core/clean/organisation'
import { db } from '@/db/connection'

export function organisationsSaying(typed: string) {
  const query = db()('organisation as o').where('o.live', true)
  for (const word of organisationKey(typed.slice(0, 200)).split(' ').filter(Boolean)) query.where('o.name_key', 'like', `%${word}%`)
  return query
}
