import { afterAll } from 'vitest'
import type { SubjectColumns } from '@/core/columns/subject-columns'
import type { ReadModel } from '@/engine/read-model'
import { serveEngine } from '@/engine/server'
import { settings } from '@/runtime/settings'
import type { TestDatabase } from './database'
import { CHANNELS } from '@/core/records/channels'

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
      words: [columns.role, columns.county, columns.town, columns.postcode, columns.street, columns.relation].map((c) => c.get(n)),
      usable: CHANNELS.map((c) => columns.usable[c].has(n)),
      contacts: Array.from(
        { length: columns.contacts.count(n) },
        (_, i) =>
          `${columns.contacts.fields.at[columns.contacts.first(n) + i]} ${columns.contacts.fields.channel[columns.contacts.first(n) + i]} ${columns.contacts.fields.result[columns.contacts.first(n) + i]}`,
      ).sort(),
      addresses: Array.from({ length: columns.addresses.count(n) }, (_, i) => columns.addresses.fields.id[columns.addresses.first(n) + i]),
      suppressed: [columns.suppressed.get(n), columns.addressSuppressed.get(n)],
      toCome: columns.toCome.get(n),
      failed: Array.from({ length: columns.addresses.count(n) }, (_, i) => columns.addresses.fields.failed[columns.addresses.first(n) + i]),
      numbers: [
        pointed(model.directory.organisations, columns.employer.at(n)),
        pointed(model.directory.premises, columns.at.at(n)),
        columns.house.at(n),
        columns.changed.at(n),
      ],
      traits: Array.from(
        { length: columns.addresses.count(n) },
        (_, i) =>
          `${columns.addresses.fields.traits[columns.addresses.first(n) + i]} ${columns.addresses.fields.checked[columns.addresses.first(n) + i]}`,
      ),
      tags: [...columns.tags]
        .filter(([, members]) => members.has(n))
        .map(([tag]) => tag)
        .sort(),
      custom: [...columns.custom]
        .map(([field, column]) => [field, column.get(n)])
        .filter(([, value]) => value !== null)
        .sort(),
      rounds: [...columns.rounds].flatMap(([list, rounds]) =>
        [...rounds].flatMap(([number, { listed, clear }]) => (listed.has(n) ? [[list, number, clear.has(n)]] : [])),
      ),
      changes: changesAt(columns, n),
      batches: [...columns.batches]
        .filter(([, members]) => members.has(n))
        .map(([id]) => id)
        .sort(),
    }))
    .sort((a, b) => a.id - b.id)
}

/** The changes of a record, in no order. */
const changesAt = (columns: SubjectColumns, n: number) =>
  Array.from({ length: columns.changes.count(n) }, (_, i) =>
    Object.entries(columns.changes.fields)
      .map(([name, field]) => {
        const value = field[columns.changes.first(n) + i]
        const { sources, texts } = columns.changeWords
        return name === 'sources' ? sources.words[value] : name === 'text' ? (texts.words[value] ?? null) : value
      })
      .join(' '),
  ).sort()

const pointed = (columns: SubjectColumns, n: number) => (n < 0 ? null : columns.idAt(n))

const common = (columns: SubjectColumns, n: number) => ({
  id: columns.idAt(n),
  words: [columns.county, columns.town, columns.postcode, columns.street].map((c) => c.get(n)),
  house: columns.house.at(n),
  custom: [...columns.custom]
    .map(([field, column]) => [field, column.get(n)])
    .filter(([, value]) => value !== null)
    .sort(),
  changes: changesAt(columns, n),
  batches: [...columns.batches]
    .filter(([, members]) => members.has(n))
    .map(([id]) => id)
    .sort(),
})

/** The same of every organisation and of all premises. */
export function saidOfOthers(model: ReadModel) {
  const { organisations, premises, people } = model.directory
  const byId = (a: { id: number }, b: { id: number }) => a.id - b.id
  return {
    organisations: organisations.live
      .toArray()
      .map((n) => ({
        ...common(organisations, n),
        own: [
          organisations.name.get(n),
          organisations.industry.get(n),
          organisations.domain.get(n),
          organisations.headCount.at(n),
          pointed(premises, organisations.at.at(n)),
          organisations.people()[n],
        ],
      }))
      .sort(byId),
    premises: premises.live
      .toArray()
      .map((n) => ({
        ...common(premises, n),
        own: [
          premises.name.get(n),
          premises.kind.get(n),
          premises.lat[n],
          premises.lon[n],
          premises.roofArea.at(n),
          premises.yearBuilt.at(n),
          premises.ownerKind.get(n),
          premises.ownerKey.get(n),
          premises.ownerLives.get(n),
          pointed(people, premises.ownerPerson.at(n)),
          pointed(organisations, premises.ownerOrganisation.at(n)),
        ],
      }))
      .sort(byId),
  }
}
