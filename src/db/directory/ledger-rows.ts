import type { Knex } from '@/db/connection'

/**
 * Returns the ledger of records, with names for everything an entry refers to. What belongs to a list the reader may not see has no name.
 */
export async function ledgerRows(trx: Knex, column: string, ids: number[], actorId: string) {
  return await trx('entry as e')
    .leftJoin('entry_value as v', 'v.id', 'e.value_id')
    .leftJoin('user as u', 'u.id', 'e.actor_id')
    .leftJoin('batch as b', 'b.id', 'e.batch_id')
    .leftJoin('round as r', 'r.id', 'e.round_id')
    .leftJoin('list as l', 'l.id', 'r.list_id')
    .leftJoin('suppression as s', 's.id', 'e.suppression_id')
    .leftJoin('report as t', 't.entry_id', 'e.id')
    .leftJoin('change_kind as k', 'k.id', 't.kind_id')
    .whereIn(`e.${column}`, ids)
    .orderBy([
      { column: 'e.at', order: 'desc' },
      { column: 'e.id', order: 'desc' },
    ])
    .limit(500)
    .select(
      'e.id',
      'e.at',
      'e.kind',
      'e.channel',
      'e.result',
      'e.field',
      'v.before',
      'v.after',
      'v.note',
      'u.name as by',
      'b.file_name',
      trx.raw('called(r) as round'),
      'l.name as list',
      trx.raw('role_on(l, ?) is not null as seen', [actorId]),
      's.word',
      's.until',
      'k.name as happening',
      't.source as reported',
    )
}

/** Returns how many contacts and how many entries a person has. */
export async function entryCounts(trx: Knex, merge: number) {
  return await trx('entry')
    .where({ person_id: merge })
    .first(trx.raw(`(count(*) filter (where kind = 'contact'))::int as contacts, count(*)::int as entries`))
}

/** Returns what changed about people and organisations since a moment, oldest first, with the values before and after. */
export async function changesSince(trx: Knex, asked: number[], ids: number[], since: Date) {
  return await trx('entry as e')
    .join('entry_value as v', 'v.id', 'e.value_id')
    .where((some) => some.whereIn('e.person_id', ids).orWhereIn('e.organisation_id', asked))
    .where('e.kind', 'change')
    .where('e.recorded_at', '>', since)
    .orderBy('e.id')
    .select('e.person_id', 'e.organisation_id', 'e.field', 'v.before', 'v.after', 'e.at')
}
