import { shaped } from '@/core/match/shaping'
import { type Fillable, FILLABLES, type Of, titlesOf } from '@/core/sources/enquiry'
import type { Gap } from '@/core/sources/source'
import { db, type Knex } from '@/db/connection'
import { keysOf } from '@/db/key'
import { cleanEmail } from '@/core/clean/email'
import { rowsOutside } from '@/formats/outside'
import { fillingSource } from '@/sources/http-source'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { answering } from './ask-or-refuse'
import { batchFor } from '@/usecases/intake/batch-for'
import { makeEnquiry } from './enquiries'
import { askedAbout, peopleOf } from './people-of'
import { refusing } from '@/usecases/intake/receive-file'
import { countText } from '@/core/text/written'
import { withFileOf } from '@/db/intake/batch-file'
import { writeItems } from '@/db/sources/enquiry-rows'
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
  const { people, of: meant } = 'file' in of ? { people: [], of } : await peopleOf(actor, of)
  // A file is read before the transaction: its reader is a process of its own.
  const gaps = 'file' in of ? await gapsOfFile(actor, of.file) : null
  return db().transaction(async (trx) => {
    const id = await makeEnquiry(trx, actor, {
      list,
      kind: 'fill',
      source: 'checker',
      name: `Gaps of ${meant.name}`,
      asked: { kind: 'fill', of: meant, fields: wanted },
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
    throw new Refused('Gaps can only be filled in a file of people that is not imported yet.')
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
        if (rows.length === MOST_ROWS) throw new Refused(`At most ${countText(MOST_ROWS)} rows can be filled at once.`)
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
