import type { Knex } from 'knex'
import { asciiDomain, domainOf } from '@/core/clean/domain'
import { fold } from '@/core/clean/fold'
import { nameKey } from '@/core/clean/name'
import { organisationKey } from '@/core/clean/organisation'
import { comparablePostal, type PostalParts } from '@/core/clean/postal'
import { addressKey, domainKey, keysOf, organisationKeyOf } from './key'

const BLOCK = 5000

/**
 * Domains in letters of any script are kept by their ASCII form from here on (UTS 46), so that both spellings are one: addresses
 * and their keys are written anew, and suppressions take on the keys of the form they are found by now.
 */
export async function oneFormOfDomains(knex: Knex): Promise<void> {
  for (let after = 0; ; ) {
    const rows: { id: number; value: string; key: Buffer }[] = await knex('address')
      .where({ channel: 'email', usable: true })
      .where('id', '>', after)
      .whereRaw(`value ~ '[^[:ascii:]]'`)
      .orderBy('id')
      .limit(BLOCK)
      .select('id', 'value', 'key')
    if (rows.length === 0) break
    after = rows[rows.length - 1].id
    for (const row of rows) {
      const domain = asciiDomain(domainOf(row.value))
      if (domain === null) continue
      const key = addressKey('email', `${row.value.slice(0, row.value.lastIndexOf('@'))}@${domain}`)
      await knex.raw(
        `insert into suppression_key (suppression_id, channel, key) select suppression_id, channel, ? from suppression_key where key = ? on conflict do nothing`,
        [key, row.key],
      )
      await knex.raw(
        'update address a set value = ?, key = ?, domain_key = ? where id = ? and not exists (select 1 from address o where o.person_id = a.person_id and o.channel = a.channel and o.key = ? and o.id <> a.id)',
        [`${row.value.slice(0, row.value.lastIndexOf('@'))}@${domain}`, key, domainKey(domain), row.id, key],
      )
    }
  }
  const domains: { id: number; hint: string }[] = await knex('suppression')
    .where({ scope: 'domain' })
    .whereRaw(`hint ~ '[^[:ascii:]]'`)
    .select('id', 'hint')
  for (const { id, hint } of domains) {
    const domain = asciiDomain(hint)
    if (domain)
      await knex('suppression_key')
        .insert({ suppression_id: id, channel: 'domain', key: domainKey(domain) })
        .onConflict(['suppression_id', 'key'])
        .ignore()
  }
}

/** Names and addresses are compared in another form from here on, and suppressions of addresses that are at hand take on its key. */
export async function foldAnew(knex: Knex): Promise<void> {
  const each = async <R extends { id: number }>(table: string, columns: string[], where: string, work: (rows: R[]) => Promise<void>) => {
    for (let after = 0; ; ) {
      const rows = (await knex(table)
        .where('id', '>', after)
        .whereRaw(where)
        .orderBy('id')
        .limit(BLOCK)
        .select('id', ...columns)) as R[]
      if (rows.length === 0) return
      after = rows[rows.length - 1].id
      await work(rows)
    }
  }
  const set = async (table: string, types: Record<string, 'text' | 'bytea'>, rows: { id: number }[]) => {
    if (rows.length === 0) return
    const names = Object.keys(types)
    await knex.raw(
      `update ?? t set ${names.map((name) => `${name} = r.${name}`).join(', ')} from unnest(?::bigint[], ${names.map((name) => `?::${types[name]}[]`).join(', ')}) as r(id, ${names.join(', ')}) where t.id = r.id`,
      [table, rows.map((row) => row.id), ...names.map((name) => rows.map((row) => (row as Record<string, unknown>)[name]))] as never,
    )
  }
  type Postal = { id: number; street: string | null; town: string | null; postcode: string | null; address_key: string | null }
  for (const table of ['person', 'organisation', 'premises']) {
    await each<Postal>(table, ['street', 'town', 'postcode', 'address_key'], 'street is not null', (rows) =>
      set(
        table,
        { address_key: 'text' },
        rows.filter((row) => comparablePostal(row) !== row.address_key).map((row) => ({ id: row.id, address_key: comparablePostal(row) })),
      ),
    )
  }
  const spelt = `name ~ '[^[:ascii:]]'`
  await each<{ id: number; given: string; family: string }>('person', ['given', 'family'], spelt, (rows) =>
    set(
      'person',
      { name_key: 'text', sort_key: 'text' },
      rows.map(({ id, given, family }) => ({
        id,
        name_key: nameKey(given, family) ?? '',
        sort_key: `${fold(family)} ${fold(given)}`.trim(),
      })),
    ),
  )
  await each<{ id: number; name: string; name_key: string; key: Buffer }>(
    'organisation',
    ['name', 'name_key', 'key'],
    spelt,
    async (rows) => {
      const fresh = rows
        .filter((row) => organisationKey(row.name) !== row.name_key)
        .map((row) => ({
          id: row.id,
          before: row.key,
          name_key: organisationKey(row.name),
          key: organisationKeyOf(organisationKey(row.name)),
        }))
      for (const { before, key } of fresh)
        await knex.raw(
          'insert into suppression_key (suppression_id, channel, key) select suppression_id, channel, ? from suppression_key where key = ? on conflict do nothing',
          [key, before],
        )
      await set(
        'organisation',
        { name_key: 'text', key: 'bytea' },
        fresh.map(({ id, name_key, key }) => ({ id, name_key, key })),
      )
    },
  )
  await each<{ id: number; name: string }>('premises', ['name'], spelt, (rows) =>
    set(
      'premises',
      { name_key: 'text' },
      rows.map(({ id, name }) => ({ id, name_key: fold(name) })),
    ),
  )
  await each<{ id: number; key: Buffer; post_key: Buffer | null; parts: PostalParts | null }>(
    'address',
    ['key', 'post_key', 'parts'],
    `channel = 'post' and parts is not null`,
    async (rows) => {
      const third = rows
        .flatMap((row) => (row.parts ? [{ ...row, third: keysOf({ postal: row.parts }).post_key_3 }] : []))
        .filter((row): row is typeof row & { third: Buffer } => row.third !== null)
      if (third.length === 0) return
      await set(
        'address',
        { post_key_3: 'bytea' },
        third.map((row) => ({ id: row.id, post_key_3: row.third })),
      )
      await knex.raw(
        `insert into suppression_key (suppression_id, channel, key) select distinct k.suppression_id, 'post', n.third from unnest(?::bytea[], ?::bytea[], ?::bytea[]) as n(first, second, third) join suppression_key k on k.key in (n.first, n.second) and k.channel = 'post'
       join suppression s on s.id = k.suppression_id and s.scope = 'post' on conflict do nothing`,
        [third.map((row) => row.key), third.map((row) => row.post_key), third.map((row) => row.third)] as never,
      )
    },
  )
}
