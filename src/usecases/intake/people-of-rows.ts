import { type FieldWords, fieldWordsOf } from '@/core/text/field-words'
import { settings } from '@/runtime/settings'
import { type CustomField, customKey } from '@/core/clean/custom'
import type { CleanAddress } from '@/core/clean/email'
import { fold } from '@/core/clean/fold'
import { nameKey } from '@/core/clean/name'
import { organisationKey } from '@/core/clean/organisation'
import { phoneCountry } from '@/core/clean/phone'
import { comparablePostal, type PostalParts } from '@/core/clean/postal'
import type { RuledField } from '@/core/match/columns'
import { doubtsOf, type PersonRow } from '@/core/clean/person-row'
import type { KnownRecords } from '@/core/match/known-records'
import type { Own } from '@/core/match/against'
import { worseSpelling } from '@/core/match/better-name'
import { isGivenName } from '@/core/match/given-names'
import type { Match, MatchKeys } from '@/core/match/same'
import { type KnownOne, whoIs } from '@/core/match/who-is'
import type { Batch } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { isSet, type KnownOrganisation, type KnownPerson, type RowOutcome } from '@/db/intake/intake-store'
import { type Keyed, keysOf } from '@/db/key'
import type { NewEntry } from '@/db/ledger'
import { comparablePerson, comparableRow, withOwn } from './known-records'
import { type NewAddress, type NewVariant, personColumns, writePeople } from '@/db/intake/write-people'
import { asksAbout } from './asks-about'
import { ofPerson, OrganisationsTold } from './organisations-told'
import { postalFor } from '@/usecases/directory/postal-address'
import type { Decided } from './decided'
import { postalText, postRow } from '@/db/directory/postal-rows'

/** What is kept of an address: its one form, but of a profile as it is written, since a link may not open in small letters. */
const asKept = (channel: 'email' | 'phone' | 'direct', a: CleanAddress): string => (channel === 'direct' ? a.value : a.normal)

/** What a run of rows changes, gathered so that each table is written once. Later rows see what earlier ones made. */
export class PeopleRun {
  private readonly index = new Map<string, Set<KnownPerson>>()
  private readonly byId = new Map<number, KnownPerson>()
  private readonly people = new Map<number, Record<string, unknown>>()
  private readonly touched = new Map<number, KnownPerson>()
  private readonly orgs: OrganisationsTold
  private readonly addresses: NewAddress[] = []
  private readonly movedOut: number[] = []
  private readonly entries: NewEntry[] = []
  private readonly variants: NewVariant[] = []

  private readonly words: FieldWords

  constructor(
    private readonly batch: Batch,
    private readonly at: Date,
    known: KnownPerson[],
    organisations: { known: KnownOrganisation[]; ids: number[] },
    private readonly ids: number[],
    /** Who may be alike: those found for each row beforehand, and those created since, who come after `from`. */
    private readonly likely: { known: KnownRecords; alike: Map<PersonRow, number[]>; from: number } | null,
    private readonly fields: readonly CustomField[],
  ) {
    this.words = fieldWordsOf(fields, settings().ARCH_REGION)
    this.orgs = new OrganisationsTold(batch, at, organisations, this.entries)
    for (const person of known) this.remember(person)
  }

  take(row: PersonRow, decided?: Decided): Omit<RowOutcome, 'row_no'> {
    const organisation = row.organisation ? organisationKey(row.organisation) : null
    const keys = {
      outsideId: row.outsideId,
      emails: row.emails.map((e) => e.normal),
      phones: row.phones.map((p) => p.normal),
      name: row.name.key,
      family: fold(row.name.family),
      organisation,
      address: comparablePostal(row.postal),
    }
    const near = new Set(
      [...keys.emails, ...keys.phones, keys.outsideId && `id:${keys.outsideId}`, keys.name && `name:${keys.name}`]
        .filter(isSet)
        .flatMap((k) => [...(this.index.get(String(k)) ?? [])]),
    )
    if (row.record !== null && decided === undefined) {
      const named = this.byId.get(row.record)
      return named
        ? this.updated(named, row, organisation, 'record number', true)
        : { outcome: 'refused', reason: `there is nobody with the record number ${row.record} in the directory` }
    }
    const found: Match =
      decided === undefined
        ? this.whoIs(row, keys, near)
        : decided === 'new'
          ? { is: 'new' }
          : { is: 'same', id: decided.person, by: 'decision' }
    if (found.is === 'in doubt') return { outcome: 'in doubt', reason: found.why, candidates: found.ids }
    if (found.is === 'new') return { outcome: 'new', reason: doubtsOf(row), person_id: this.create(row, organisation) }
    const person = this.byId.get(found.id)
    if (!person) return { outcome: 'in doubt', reason: 'the person you chose is no longer in the directory', candidates: [] }
    return this.updated(person, row, organisation, found.by, decided === undefined)
  }

  private updated(person: KnownPerson, row: PersonRow, organisation: string | null, by: string, asks: boolean): Omit<RowOutcome, 'row_no'> {
    const asked = asks ? asksAbout(this.batch, this.fields, person, row, organisation, this.words) : []
    if (asked.length > 0)
      return { outcome: 'in doubt', reason: `known by ${by}; it asks about ${asked.join(', ')}`, candidates: [person.id] }
    const from = this.entries.length
    const { changed, kept } = this.update(person, row, organisation)
    const fields = this.entries.slice(from).map(({ field = '', before = null, after = null }) => this.words.told({ field, before, after }))
    return {
      changes: { name: `${person.given} ${person.familyName}`.trim(), fields },
      outcome: changed.length > 0 ? 'updated' : 'same',
      reason: [changed.join(', '), `known by ${by}`, kept.length > 0 && `kept as it was: ${kept.join(', ')}`, doubtsOf(row)]
        .filter(Boolean)
        .join(' · '),
      person_id: person.id,
    }
  }

  private isName(folded: string): boolean {
    return isGivenName(folded) || (this.likely?.known.isGiven(folded) ?? false)
  }

  /** Keeps another spelling of a name beside the one we have, and says so. */
  private variant(person: KnownPerson, row: PersonRow, why: string, kept: string[]): void {
    const key = row.name.key as string
    kept.push(`name (the file says “${row.name.name}”: ${why})`)
    person.otherNames = [...(person.otherNames ?? []), key]
    this.variants.push({ person_id: person.id, name_key: key, name: row.name.name, batch_id: this.batch.id, at: this.at })
  }

  private whoIs(row: PersonRow, keys: MatchKeys, near: Set<KnownPerson>): Match {
    const known = (p: KnownPerson): KnownOne => ({
      ...p,
      name: nameKey(p.given, p.familyName),
      family: fold(p.familyName),
      own: withOwn(comparablePerson(p)),
    })
    const own = withOwn(comparableRow(row))
    const { likely } = this
    const likeness = likely && {
      like: () =>
        [...(likely.alike.get(row) ?? []), ...likely.known.find(own, undefined, likely.from)]
          .flatMap((id) => this.byId.get(id) ?? [])
          .map(known),
      of: (one: Own, other: Own) => likely.known.likeness(one, other),
    }
    return whoIs({ ...keys, own }, [...near].map(known), likeness, (name) => this.isName(name))
  }

  private create(row: PersonRow, organisation: string | null): number {
    const id = this.ids.shift() as number
    const org = organisation ? this.orgs.find(row, organisation) : null
    const person: KnownPerson = {
      id,
      outsideId: row.outsideId,
      given: row.name.given,
      familyName: row.name.family,
      name: row.name.key,
      family: fold(row.name.family),
      role: row.role,
      relation: row.relation,
      organisationId: org?.id ?? null,
      organisationName: row.organisation,
      organisation,
      ...row.postal,
      county: row.county,
      address: comparablePostal(row.postal),
      tags: row.tags,
      custom: ofPerson(row.custom),
      emails: [],
      phones: [],
      directs: [],
      post: null,
      topPosition: 0,
    }
    this.people.set(id, { id, batch_id: this.batch.id, created_at: this.at, ...personColumns(person) })
    this.entries.push({ ...this.entry(person), kind: 'created' })
    this.addNumbers(person, row, false)
    this.post(person, postalFor(row.postal, org && { street: org.street, town: org.town, postcode: org.postcode }))
    this.remember(person)
    this.likely?.known.add(id, comparablePerson(person))
    return id
  }

  /** What a row that is somebody we know changes: empty cells change nothing. Returns the names of what changed, and of what was kept although the row says otherwise. */
  private update(person: KnownPerson, row: PersonRow, organisation: string | null): { changed: string[]; kept: string[] } {
    const changed: string[] = []
    const kept: string[] = []
    const rules = this.batch.options.rules ?? {}
    // Whether what we have stays, because the row may only fill what is blank.
    const stays = (field: RuledField, ours: string | null): boolean => {
      if (rules[field] !== 'blanks' || ours === null || ours === '') return false
      kept.push(field)
      return true
    }
    const change = (field: string, before: string | null, after: string) => {
      changed.push(this.words.name(field))
      this.entries.push({ ...this.entry(person), kind: 'change', field, before, after })
      this.touched.set(person.id, person)
    }
    if (row.outsideId && person.outsideId === null && !(person.otherIds ?? []).includes(row.outsideId)) {
      change('outside id', null, row.outsideId)
      person.outsideId = row.outsideId
    }
    // A name that a record merged into this one had is known already and changes nothing.
    const other =
      row.name.key !== null &&
      row.name.key !== nameKey(person.given, person.familyName) &&
      !(person.otherNames ?? []).includes(row.name.key)
    const worse = other ? worseSpelling(row.name, { given: person.given, family: person.familyName }, (name) => this.isName(name)) : null
    if (worse !== null) this.variant(person, row, worse, kept)
    else if (other && !stays('name', person.familyName)) {
      if (row.name.given !== person.given) change('given name', person.given, row.name.given)
      if (row.name.family !== person.familyName) change('family name', person.familyName, row.name.family)
      Object.assign(person, { given: row.name.given, familyName: row.name.family })
    }
    for (const field of ['role', 'relation', 'county'] as const) {
      const value = row[field]
      if (value === null || value === person[field] || stays(field, person[field])) continue
      change(field, person[field], value)
      person[field] = value
    }
    if (organisation && organisation !== person.organisation && !stays('organisation', person.organisation)) {
      change('organisation', person.organisationName, row.organisation as string)
      person.organisationId = this.orgs.find(row, organisation).id
      person.organisation = organisation
      person.organisationName = row.organisation
    }
    const employer = organisation && organisation === person.organisation ? this.orgs.byId(person.organisationId) : undefined
    if (employer) changed.push(...this.orgs.update(employer, row).map((field) => this.words.name(field)))
    const tags = row.tags.filter((tag) => !person.tags.includes(tag))
    if (tags.length > 0) {
      change('tags', person.tags.join(', '), [...person.tags, ...tags].join(', '))
      person.tags = [...person.tags, ...tags]
    }
    for (const [id, value] of Object.entries(ofPerson(row.custom))) {
      const before = person.custom[id] ?? null
      if (value === before || stays('own fields', before)) continue
      change(customKey(Number(id)), before, value)
      person.custom = { ...person.custom, [id]: value }
    }
    const address = { street: person.street, town: person.town, postcode: person.postcode }
    const differs = (['street', 'town', 'postcode'] as const).some(
      (part) => row.postal[part] !== null && row.postal[part] !== address[part],
    )
    if (differs && !stays('address', postalText(address))) this.updatePostal(person, row, change)
    changed.push(...this.addNumbers(person, row, true))
    return { changed, kept }
  }

  private updatePostal(person: KnownPerson, row: PersonRow, change: (field: string, before: string | null, after: string) => void): void {
    const before = { street: person.street, town: person.town, postcode: person.postcode }
    const after = {
      street: row.postal.street ?? before.street,
      town: row.postal.town ?? before.town,
      postcode: row.postal.postcode ?? before.postcode,
    }
    for (const field of ['street', 'town', 'postcode'] as const)
      if (after[field] !== before[field]) change(field, before[field], after[field] as string)
    Object.assign(person, after, { address: comparablePostal(after) })
    // A piece of an address does not take the place of one that letters reach, as their organisation's does.
    const next = postalFor(after, person.post)
    const [had, has] = [person.post ? postalText(person.post) : '', postalText(next)]
    if (has === had) return
    change('post', had || null, has)
    this.movedOut.push(person.id)
    this.post(person, next)
  }

  private addNumbers(person: KnownPerson, row: PersonRow, tell: boolean): string[] {
    const changed: string[] = []
    for (const [channel, own, said] of [
      ['email', person.emails, row.emails],
      ['phone', person.phones, row.phones],
      ['direct', person.directs, row.directs],
    ] as const) {
      const fresh = said.filter((a) => !own.includes(a.normal))
      fresh.forEach((a, i) => {
        this.addresses.push({
          person_id: person.id,
          channel,
          raw: a.raw,
          value: asKept(channel, a),
          parts: null,
          country: channel === 'phone' && a.usable ? phoneCountry(a.normal) : null,
          ...keysOf({ [channel]: a.normal } as Keyed),
          usable: a.usable,
          why_unusable: a.usable ? null : a.why,
          position: person.topPosition - (tell ? fresh.length - i : -i),
          batch_id: this.batch.id,
        })
        if (tell) {
          changed.push(channel)
          this.entries.push({ ...this.entry(person), kind: 'change', field: channel, before: own[0] ?? null, after: asKept(channel, a) })
        }
        own.push(a.normal)
      })
      if (tell) person.topPosition -= fresh.length
    }
    this.remember(person)
    return changed
  }

  private post(person: KnownPerson, postal: PostalParts): void {
    const row = postRow(postal)
    person.post = row?.parts ?? null
    if (row) this.addresses.push({ ...row, person_id: person.id, batch_id: this.batch.id })
  }

  private entry(person: KnownPerson): Omit<NewEntry, 'kind'> {
    return { person: person.id, at: this.at, actor: this.batch.actor_id, batch: this.batch.id }
  }

  private remember(person: KnownPerson): void {
    for (const id of [person.id, ...(person.otherRecords ?? [])]) this.byId.set(id, person)
    const name = nameKey(person.given, person.familyName)
    const also = [...(person.otherIds ?? []).map((id) => `id:${id}`), ...(person.otherNames ?? []).map((other) => `name:${other}`)]
    for (const key of [
      ...person.emails,
      ...person.phones,
      ...also,
      person.outsideId && `id:${person.outsideId}`,
      name && `name:${name}`,
    ].filter(isSet)) {
      const known = this.index.get(String(key))
      if (known) known.add(person)
      else this.index.set(String(key), new Set([person]))
    }
  }

  write(trx: Knex): Promise<void> {
    return writePeople(trx, {
      people: this.people,
      touched: this.touched,
      organisations: this.orgs,
      addresses: this.addresses,
      movedOut: this.movedOut,
      variants: this.variants,
      entries: this.entries,
      at: this.at,
    })
  }
}
