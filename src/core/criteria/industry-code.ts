import { array, type InferType, object, string } from 'yup'
import { customKey } from '../clean/custom'
import { type IndustryCode, inBranch, industryCode } from '../clean/industry-code'
import { FIELD } from '../clean/standard-fields'
import { Bitset } from '../columns/bitset'
import { byWord, chips, type CriterionKind, steady, namesNothing } from './kind'

const schema = object({
  kind: string()
    .oneOf(['industry-code'] as const)
    .required(),
  any: array(
    string()
      .trim()
      .max(40)
      .test(
        'code',
        ({ value }) => `“${value}” is no code of NAICS, NACE or ISIC`,
        (value) => value === undefined || industryCode(value) !== null,
      )
      .required(),
  )
    .min(1, 'name at least one code')
    .max(60)
    .required(),
}).noUnknown()
export type IndustryCodeCriterion = InferType<typeof schema>

/** The code of the organisation's industry lies in any of some branches, each with its leaves. Without a code it is unknown. */
export const industryByCode: CriterionKind<IndustryCodeCriterion, 'organisation'> = {
  name: 'Industry by its code',
  synonyms: ['naics', 'nace', 'isic', 'sic code', 'sector code', 'industry code'],
  inName: { before: '', after: '' },
  single: false,
  probe: { kind: 'industry-code', any: ['NAICS 99'] },
  named: namesNothing,
  of: 'organisation',
  group: 'their organisation',
  schema,
  blank: { kind: 'industry-code', any: [] },
  whose: true,
  form: {
    of: 'words',
    label: 'Codes of NAICS, NACE or ISIC',
    hint: 'A branch takes its leaves: NAICS 61 is all of education, NACE C all of manufacturing.',
  },
  sentence: ({ any }) => [{ text: 'industry’s code is in' }, ...chips(any, 'any', 'which branch?')],
  asks: () => [customKey(FIELD.industryCode)],
  varies: steady,
  verdict: ({ any }, { custom }) =>
    custom[FIELD.industryCode] === undefined ? 'unknown' : test(any)(custom[FIELD.industryCode]) ? 'yes' : 'no',
  evaluate({ any }, columns) {
    const column = columns.custom.get(FIELD.industryCode)
    return column ? byWord(columns, column, column.words.map(test(any))) : { yes: new Bitset(columns.size), unknown: columns.live.clone() }
  },
}

function test(any: string[]): (text: string) => boolean {
  const branches = any.map(industryCode).filter((branch): branch is IndustryCode => branch !== null)
  return (text) => {
    const code = industryCode(text)
    return code !== null && branches.some((branch) => inBranch(code, branch))
  }
}
