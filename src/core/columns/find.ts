import { fold } from '../clean/fold'
import type { Bitset } from './bitset'
import { NEVER, type PeopleColumns } from './people-columns'
import type { PersonRecord } from '../records/person-record'
import type { WordColumn } from './words'

/** How people found in the directory are sorted. */
export const SORTS = ['name', 'organisation', 'town', 'last contact', 'newest'] as const
export type PeopleSort = (typeof SORTS)[number]

/** One word that was typed, folded, and the ids of whoever has it in an email or phone, where it can be one. */
export interface FindWord {
  text: string
  ids: readonly number[]
}

/** Whether a record says every word: in its names, its organisation's, its role or town, or by email or phone. The reference. */
export function saysWords(record: PersonRecord, words: readonly FindWord[]): boolean {
  const texts = [record.given, record.family, record.employer?.name ?? '', record.role ?? '', record.town ?? ''].map(fold)
  return words.every(({ text, ids }) => texts.some((t) => t.includes(text)) || ids.includes(record.id))
}

/** Everybody live who says every word. Each distinct name, role and town is looked at once and not once a person. */
export function findPeople(columns: PeopleColumns, words: readonly FindWord[]): Bitset {
  return words.reduce((found, { text, ids }) => {
    const says = (word: string) => (word.includes(text) ? 1 : 0)
    const own = [columns.given, columns.family, columns.role, columns.town].map(
      (column) => found.splitByCode(column.all, saidBy(column.derived(fold), says)).yes,
    )
    const employer = found.splitByCode(
      columns.employer.all,
      saidBy(ofEmployer(columns, says), (said) => said),
    ).yes
    const saying = own.reduce((all, one) => all.or(one), employer)
    return ids.length > 0 ? saying.or(columns.numbers(ids).and(found)) : saying
  }, columns.live)
}

/** What each code says, as `splitByCode` has it; a missing one says nothing. */
function saidBy<T>(of: ArrayLike<T>, says: (own: T) => number): Uint8Array {
  const said = new Uint8Array(of.length + 1)
  for (let code = 0; code < of.length; code++) said[code + 1] = says(of[code])
  return said
}

/** The record numbers of a set in the order asked for; a missing value goes last, but for a last contact, where never comes first. */
export function sorted(columns: PeopleColumns, set: Bitset, sort: Exclude<PeopleSort, 'name'>): Int32Array {
  const place = new Int32Array(columns.size)
  columns.inOrder().forEach((n, i) => {
    place[n] = i
  })
  const rank = rankOf(columns, sort)
  const size = columns.size + 1
  const packed = new Float64Array(set.count())
  let i = 0
  const numbers = set.toInt32()
  for (const n of numbers) packed[i++] = rank(n) * size + place[n]
  packed.sort()
  const order = columns.inOrder()
  return Int32Array.from(packed, (value) => order[value % size])
}

function rankOf(columns: PeopleColumns, sort: Exclude<PeopleSort, 'name'>): (n: number) => number {
  switch (sort) {
    case 'organisation':
      return byEmployer(columns)
    case 'town':
      return byWord(columns.town)
    case 'newest':
      return (n) => columns.size - n
    case 'last contact': {
      const { at } = columns.contacts.fields
      return (n) => {
        let last = NEVER
        const end = columns.contacts.first(n) + columns.contacts.count(n)
        for (let i = columns.contacts.first(n); i < end; i++) if (at[i] > last) last = at[i]
        return last === NEVER ? 0 : Math.max(1, Math.floor(last / 60_000))
      }
    }
  }
}

/** What the folded name of each organisation says, by its record number. */
function ofEmployer({ directory: { organisations } }: PeopleColumns, says: (name: string) => number): Uint8Array {
  const names = Uint8Array.from(organisations.name.derived(fold), says)
  return Uint8Array.from({ length: organisations.size }, (_, o) => {
    const code = organisations.name.codeAt(o)
    return code < 0 || !organisations.live.has(o) ? 0 : names[code]
  })
}

/** The place of each person's organisation among their folded names. */
function byEmployer({ employer, directory: { organisations } }: PeopleColumns): (n: number) => number {
  const names = organisations.name.derived(fold)
  const sorted = [...new Set(names)].sort()
  const places = new Map(sorted.map((name, i) => [name, i]))
  return (n) => {
    const o = employer.at(n)
    const code = o < 0 || !organisations.live.has(o) ? -1 : organisations.name.codeAt(o)
    return code < 0 ? sorted.length : (places.get(names[code]) as number)
  }
}

/** The place of each record's word among the distinct words, in alphabetical order. */
function byWord(column: WordColumn): (n: number) => number {
  const places = new Int32Array(column.words.length)
  Array.from(column.words.keys())
    .sort((a, b) => (column.words[a] < column.words[b] ? -1 : 1))
    .forEach((code, i) => {
      places[code] = i
    })
  return (n) => {
    const code = column.codeAt(n)
    return code < 0 ? column.words.length : places[code]
  }
}
