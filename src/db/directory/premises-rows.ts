import { fold } from '@/core/clean/fold'
import { db } from '@/db/connection'

export function premisesSaying(typed: string) {
  const query = db()('premises').where({ state: 'live' })
  for (const word of fold(typed.slice(0, 200)).split(' ').filter(Boolean))
    query.whereRaw(`(name_key || ' ' || lower(concat_ws(' ', street, town, postcode, owner, kind))) like ?`, [`%${word}%`])
  return query
}
