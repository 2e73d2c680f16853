import { shaped } from '@/core/match/shaping'
import { type Fillable, FILLABLES, type Of, titlesOf } from '@/core/sources/enquiry'
import type { Gap } from '@/core/sources/source'
import { db, type Knex } from '@/db/connection'
import { besideTransaction } from '@/runtime/inside-transaction'
import { keysOf } from '@/db/key'
import { cleanEmail } from '@/core/clean/email'
import { rowsOutside } from '@/formats/outside'
import { fillingSource } from '@/sources/http-source'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { answering } from './ask-or-refuse'
import { batchFor } from '@/usecases/intake/batch-for'
import { enquiryFor, makeEnquiry } from './enquiries'
import { askedAbout, peopleOf } from '@/usecases/directory/people-of'
import { receiveFile, refusing } from '@/usecases/intake/receive-file'
import { countText } from '@/core/text/written'
import { withFileOf } from '@/db/intake/batch-file'
import { type Enquiry, itemRows, updateBatch, writeItems } from '@/db/sources/enquiry-rows'
import { updateOptions } from '@/db/intake/batch-rows'
import { peopleByKey, peopleWithGaps } from '@/db/sources/gap-rows'

/** Rows of a file that gaps are filled of at most. */
const MOST_ROWS = 100_000

/**
 * Makes ready to fill the gaps of everybody on a list or in a batch, or of the rows of a file that has little but e-mail
 * addresses or profiles: who lacks what, whom we have all of already and pay nothing for, and what the rest may cost.
 */
export async function prepareFill(actor: Actor, asked: Of, fields: Fillable[]): Promise<number> {
  mustCoordinate(actor, 'Filling gaps')
  const wanted = FILLABLES.filter((field) => fields.includes(field))
  if (wanted.length === 0) throw new Refused('Choose at least one thing to be filled.')
  const { of, list } = await askedAbout(actor, asked)
  const prices = await answering(() => fillingSource.prices())
  const people = 'file' in of ? [] : await peopleOf(actor, of)
  // A file is read before the transaction: its reader is a process of its own.
  const gaps = 'file' in of ? await gapsOfFile(actor, of.file) : null
  return db().transaction(async (trx) => {
    const id = await makeEnquiry(trx, actor, {
      list,
      kind: 'fill',
      source: 'checker',
      name: `Gaps of ${of.name}`,
      asked: { kind: 'fill', of, fields: wanted },
      state: 'ready',
      prices,
    })
    if (gaps) await writeItems(trx, id, gaps)
    else for (let i = 0; i < people.length; i += 5000) await gapsOfPeople(trx, id, people.slice(i, i + 5000), wanted)
    return id
  })
}

async function gapsOfPeople(trx: Knex, id: number, people: number[], wanted: Fillable[]): Promise<void> {
  const first = (channel: string) =>
    `(select a.value from address a where a.person_id = p.id and a.channel = '${channel}' and a.usable order by a.position, a.id limit 1)`
  const rows = await peopleWithGaps(trx, first('email'), first('phone'), people)
  await writeItems(
    trx,
    id,
    rows.map((p: Record<'name' | 'role' | 'organisation' | 'street' | 'email' | 'phone', string | null> & { id: number }) => {
      const has: Record<Fillable, string | null> = {
        email: p.email,
        phone: p.phone,
        role: p.role,
        organisation: p.organisation,
        address: p.street,
      }
      const lacks = wanted.filter((field) => !has[field])
      const gap: Omit<Gap, 'ref'> = {
        wants: titlesOf(lacks),
        ...(p.email ? { email: p.email } : {}),
        ...(p.name ? { name: p.name } : {}),
        ...(p.organisation ? { organisation: p.organisation } : {}),
      }
      return {
        key: `person:${p.id}`,
        data: { title: p.name ?? '', detail: lacks.length > 0 ? `lacks ${lacks.join(', ')}` : '', person: p.id, gap, lacks },
        state: lacks.length === 0 ? ('known' as const) : ('open' as const),
        why: lacks.length === 0 ? 'lacks nothing of it' : null,
      }
    }),
  )
}

const PROFILE = /^https?:\/\/\S+$/i

async function gapsOfFile(actor: Actor, file: number): Promise<Parameters<typeof writeItems>[2]> {
  const batch = await batchFor(actor, file)
  if (batch.state !== 'mapping' || batch.kind !== 'people')
    throw new Refused('Gaps are filled of a file of people that waits for its columns.')
  const rows: { row: number; email: string | null; profile: string | null; name: string | null; organisation: string | null }[] = []
  const column = (...fields: string[]) => batch.mapping.findIndex((field) => field !== null && fields.includes(field))
  const [email, name, given, family, organisation] = [
    column('email', 'email2'),
    column('name'),
    column('given'),
    column('family'),
    column('organisation'),
  ]
  await withFileOf(file, (path) =>
    refusing(async () => {
      for await (const raw of rowsOutside(path, batch.reading, batch.header)) {
        if (rows.length === MOST_ROWS) throw new Refused(`Gaps are filled of at most ${countText(MOST_ROWS)} rows at once.`)
        const row = shaped(raw, batch.header.length, batch.shaping)
        const cell = (at: number) => (at < 0 ? null : row[at]?.trim() || null)
        const cleaned = cleanEmail(cell(email) ?? '')
        rows.push({
          row: rows.length + 1,
          email: cleaned?.usable ? cleaned.normal : null,
          profile: row.find((c) => PROFILE.test(c.trim()))?.trim() ?? null,
          name: cell(name) ?? ([cell(given), cell(family)].filter(Boolean).join(' ') || null),
          organisation: cell(organisation),
        })
      }
    }),
  )
  const keys = rows.flatMap((r) => (r.email ? [keysOf({ email: r.email }).key] : []))
  const have = await peopleByKey(db(), keys)
  const known = new Map(have.map((r: { key: string; id: number; name: string }) => [r.key, r]))
  return rows.map((r) => {
    const gap: Omit<Gap, 'ref'> = {
      ...(r.email ? { email: r.email } : {}),
      ...(r.profile ? { profile: r.profile } : {}),
      ...(r.name ? { name: r.name } : {}),
      ...(r.organisation ? { organisation: r.organisation } : {}),
    }
    const ours =
      r.email === null ? undefined : (known.get(keysOf({ email: r.email }).key.toString('hex')) as { id: number; name: string } | undefined)
    const nothing = !r.email && !r.profile && !(r.name && r.organisation)
    return {
      key: `row:${r.row}`,
      data: {
        title: r.email ?? r.profile ?? r.name ?? `row ${r.row}`,
        detail: `row ${r.row}`,
        row: r.row,
        gap,
        ...(ours ? { person: ours.id, known: ours.name } : {}),
      },
      state: ours ? ('known' as const) : nothing ? ('left out' as const) : ('open' as const),
      why: ours
        ? `in the directory already, of ${ours.name}`
        : nothing
          ? 'the row has neither e-mail, profile, nor name and organisation'
          : null,
    }
  })
}

/**
 * Makes a batch of what an enquiry brought, to be looked at and matched like any file. Of people we know only what they
 * lack stands in it, and it fills blanks alone; of a file its own columns stand first. What is about a list belongs to it, and does
 * not carry its name about. Gives the number of the batch.
 */
export async function batchFromEnquiry(actor: Actor, id: number): Promise<number> {
  mustCoordinate(actor, 'Bringing in what a source found')
  return db().transaction(async (trx) => {
    // Pressed twice at once it makes one batch.
    const e = await enquiryFor(actor, id, 'use', trx, true)
    // Its rows are written beside the transaction, which locks this one enquiry and nothing else.
    const batch = await besideTransaction(() => madeBatch(actor, id, e))
    await updateBatch(trx, id, batch)
    return batch
  })
}

async function madeBatch(actor: Actor, id: number, e: Enquiry): Promise<number> {
  if (e.batch_id !== null) throw new Refused('What it brought is a batch already.')
  if (e.kind === 'check') throw new Refused('A check brings nobody in.')
  if (e.state === 'running' || e.state === 'asking') throw new Refused('It is still under way.')
  const items: {
    key: string
    data: { title: string; person?: number; row?: number; known?: string; lacks?: Fillable[] }
    answer: Record<string, string> | null
    state: string
  }[] = await itemRows(db(), id)
  const rows =
    e.asked.kind === 'fill' && 'file' in e.asked.of
      ? await filledRows(actor, e.asked.of.file, new Map(items.map((item) => [item.data.row as number, item])))
      : items
          .filter(({ answer }) => answer !== null)
          .map(({ key, data, answer, state }) =>
            data.person === undefined
              ? { ...answer, 'Source key': `${e.source} ${key}` }
              : { 'Record number': String(data.person), Name: data.title, ...only(answer ?? {}, data.lacks ?? []), Found: state },
          )
  if (items.every(({ answer }) => answer === null)) throw new Refused('It brought nothing that could come in.')
  const lines = rows.map((row) => JSON.stringify(inOrder(row))).join('\n')
  const batch = await receiveFile(actor, {
    name: `${e.list_id === null ? e.name : `Gaps filled ${id}`}.jsonl`,
    bytes: Buffer.from(lines),
    kind: e.source === 'premises' ? 'premises' : 'people',
  })
  const rules = e.kind === 'fill' ? { name: 'blanks', role: 'blanks', organisation: 'blanks', address: 'blanks' } : {}
  await updateOptions(db(), batch, rules, e.list_id)
  return batch
}

/** Titles as people read them; what a database kept comes back in an order of its own. */
const TITLES = [
  'Record number',
  'Name',
  'Premises',
  'Kind of premises',
  'Role',
  'Organisation',
  'Organisation type',
  'Sub-kind',
  'Employees',
  'E-mail',
  'Phone',
  'Street',
  'Town',
  'Postcode',
  'Latitude',
  'Longitude',
  'Kind of roof',
  'Roof area',
  'Year built',
  'Owner',
  'Kind of owner',
]

function inOrder(row: Record<string, string>): Record<string, string> {
  const place = (title: string) => (TITLES.includes(title) ? TITLES.indexOf(title) : TITLES.length)
  return Object.fromEntries(Object.entries(row).sort(([a], [b]) => place(a) - place(b)))
}

/** Of what was found, that which somebody lacks. */
function only(answer: Record<string, string>, lacks: Fillable[]): Record<string, string> {
  return Object.fromEntries(titlesOf(lacks).flatMap((title) => (answer[title] ? [[title, answer[title]]] : [])))
}

/** Every row of a file, with what was found for it beside its own cells, which stand as they are; of whom we have, our own record. */
async function filledRows(
  actor: Actor,
  file: number,
  filled: Map<number, { data: { person?: number; known?: string }; answer: Record<string, string> | null; state: string }>,
): Promise<Record<string, string>[]> {
  const batch = await batchFor(actor, file)
  const rows: Record<string, string>[] = []
  const added = [
    ...new Set(
      [...filled.values()].flatMap(({ answer, data }) => [
        ...Object.keys(answer ?? {}),
        ...(data.person === undefined ? [] : ['Record number', 'Name']),
      ]),
    ),
  ]
  await withFileOf(file, (path) =>
    refusing(async () => {
      for await (const raw of rowsOutside(path, batch.reading, batch.header)) {
        const came = filled.get(rows.length + 1)
        const own = Object.fromEntries(batch.header.map((title, i) => [title || `Column ${i + 1}`, raw[i] ?? '']))
        const found: Record<string, string> =
          came?.data.person === undefined
            ? (came?.answer ?? {})
            : { 'Record number': String(came.data.person), Name: came.data.known ?? '' }
        rows.push({
          ...own,
          ...Object.fromEntries(added.map((title) => [title, own[title]?.trim() ? own[title] : (found[title] ?? '')])),
          Found: came?.state ?? '',
        })
      }
    }),
  )
  return rows
}
