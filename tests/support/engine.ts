import { afterAll } from 'vitest'
import { SCREENED } from '@/core/columns/person-record'
import type { ReadModel } from '@/engine/read-model'
import { serveEngine } from '@/engine/server'
import { settings } from '@/runtime/settings'
import type { TestDatabase } from './database'

/** The real engine over a test database, reached over HTTP as the application reaches it. */
export async function startEngine(t: TestDatabase) {
  const { ENGINE_PORT, ARCH_SECRET } = settings()
  const engine = await serveEngine(t.app, ENGINE_PORT, ARCH_SECRET)
  await engine.model.catchUp()
  afterAll(() => engine.close())
  return engine
}

/** Everything a model says of everybody, by id. */
export function said(model: ReadModel) {
  const { columns } = model
  return columns.live
    .toArray()
    .map((n) => ({
      id: columns.idAt(n),
      words: [columns.role, columns.industry, columns.county, columns.town, columns.postcode, columns.relation].map((c) => c.get(n)),
      usable: SCREENED.map((c) => columns.usable[c].has(n)),
      contacts: Array.from({ length: columns.contacts.count(n) }, (_, i) => `${columns.contacts.fields.at[columns.contacts.first(n) + i]} ${columns.contacts.fields.channel[columns.contacts.first(n) + i]}`).sort(),
      addresses: Array.from({ length: columns.addresses.count(n) }, (_, i) => columns.addresses.fields.id[columns.addresses.first(n) + i]),
      suppressed: [columns.suppressed.get(n), columns.addressSuppressed.get(n)],
      toCome: columns.toCome.get(n),
      failed: Array.from({ length: columns.addresses.count(n) }, (_, i) => columns.addresses.fields.failed[columns.addresses.first(n) + i]),
      numbers: [columns.organisation.at(n), columns.headCount.at(n)],
      tags: [...columns.tags].filter(([, members]) => members.has(n)).map(([tag]) => tag).sort(),
      custom: [...columns.custom].map(([field, column]) => [field, column.get(n)]).filter(([, value]) => value !== null).sort(),
      rounds: [...columns.rounds].flatMap(([list, rounds]) => [...rounds].flatMap(([number, { listed, clear }]) => (listed.has(n) ? [[list, number, clear.has(n)]] : []))),
      batches: [...columns.batches].filter(([, members]) => members.has(n)).map(([id]) => id).sort(),
    }))
    .sort((a, b) => a.id - b.id)
}
