import { FIELD } from '@/core/clean/standard-fields'
import { db } from '@/db/connection'
import type { KnownWord } from '@/core/criteria/kind'

/** Returns the words that are used most in the directory, up to 40 of each kind, for what a search suggests. */
export async function lookUp(): Promise<KnownWords> {
  const of = async (table: 'person' | 'organisation', column: string) => {
    const rows = await db()(table)
      .whereNotNull(column)
      .where(table === 'person' ? { state: 'live' } : { live: true })
      .groupBy(column)
      .orderByRaw('count(*) desc')
      .limit(40)
      .select(`${column} as word`)
    return rows.map((row) => row.word as string)
  }
  const { rows: tags } = await db().raw(
    `select word from person, unnest(tags) word where state = 'live' group by word order by count(*) desc limit 40`,
  )
  const [people, organisations] = [await of('person', 'county'), await of('organisation', 'county')]
  const ofField = async (table: 'person' | 'organisation' | 'premises', ...fields: number[]) => {
    const column = table === 'person' ? 'custom' : 'details'
    const { rows } = await db().raw(
      `select trim(word) as word from ??, unnest(?::text[]) field, unnest(string_to_array(?? ->> field, ';')) word where ?? ->> field is not null group by 1 order by count(*) desc limit 40`,
      [table, fields.map(String), column, column],
    )
    return rows.map((row: { word: string }) => row.word) as string[]
  }
  const places = async (person: number, organisation: number, premises: number) => [
    ...new Set([
      ...(await ofField('person', person)),
      ...(await ofField('organisation', organisation)),
      ...(await ofField('premises', premises)),
    ]),
  ]
  const premisesKinds = (
    await db()('premises')
      .where({ state: 'live' })
      .whereNotNull('kind')
      .groupBy('kind')
      .orderByRaw('count(*) desc')
      .limit(40)
      .select('kind')
  ).map((row) => row.kind as string)
  const more = {
    languages: await ofField('person', FIELD.languages),
    earlier: await ofField('person', FIELD.earlier),
    holders: (await db()('user').orderBy('name').select('name')).map((u) => u.name as string),
    premisesKinds,
    countries: await places(FIELD.country, FIELD.orgCountry, FIELD.premisesCountry),
    regions: await places(FIELD.region, FIELD.orgRegion, FIELD.premisesRegion),
    districts: await places(FIELD.district, FIELD.orgDistrict, FIELD.premisesDistrict),
  }
  return {
    ...more,
    towns: await of('person', 'town'),
    counties: [...new Set([...people, ...organisations])],
    industries: await of('organisation', 'industry'),
    tags: tags.map((t: { word: string }) => t.word),
  }
}

/** Words that stand in the directory, the most common first, to choose from while a line is written. */
export type KnownWords = Record<KnownWord, string[]>
