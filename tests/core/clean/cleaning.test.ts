import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { emailTraits } from '@/core/clean/email-traits'
import { type CleanName, cleanName } from '@/core/clean/name'
import { BEFORE_NAMES, BEHIND_NAMES } from '@/core/clean/name-words'
import { cleanOrganisation, organisationKey } from '@/core/clean/organisation'
import { classifyRole, FUNCTIONS, LEVELS } from '@/core/clean/role'
import { type PersonRow, personRow } from '@/core/clean/person-row'

describe('a person’s name', () => {
  // given | family | before | behind | another name
  test.each([
    ['Dr. Anna-Lena van der Ploegh PhD', 'Anna-Lena | van der Ploegh | Dr. | PhD | '],
    ['VAN DER BERG, Piet', 'Piet | van der Berg |  |  | '],
    ['Smith, John, MBA', 'John | Smith |  | MBA | '],
    ['Prof Sir Ian O’Rourke, FRICS', 'Ian | O’Rourke | Prof Sir | FRICS | '],
    ['J.P. Morlan BA (Hons), MSc', 'J.P. | Morlan |  | BA Hons MSc | '],
    ['🌸 Anna Marsh 🌸', 'Anna | Marsh |  |  | '],
    ['👨‍👩‍👧 Tam Quill', 'Tam | Quill |  |  | '],
    ['Radley, Leif (Lee)', 'Leif | Radley |  |  | Lee'],
    ['MARIA DE LA CRUZ Y MONTOYA', 'Maria | de la Cruz y Montoya |  |  | '],
    ['john mcdonald iii', 'John | McDonald III |  |  | '],
    ['Quill Jr, Tam', 'Tam | Quill Jr |  |  | '],
    ['Mr & Mrs Quill', ' | Quill | Mr & Mrs |  | '],
    ['The Occupier', ' | The Occupier |  |  | '],
    // Two that look like degrees and are names, and one that is a degree.
    ['Anna Ma', 'Anna | Ma |  |  | '],
    ['LEE CHI MA', 'Lee Chi | Ma |  |  | '],
    ['Lee Chi MA', 'Lee | Chi |  | MA | '],
    ['*** Jo Marsh ~', 'Jo | Marsh |  |  | '],
  ])('%s', (full, parts) => {
    const { given, family, honorific, credentials, nickname } = cleanName({ full }) as CleanName
    expect([given, family, honorific ?? '', credentials ?? '', nickname ?? ''].join(' | ')).toBe(parts)
  })

  test('says what was done, and nothing where nothing was', () => {
    expect(cleanName({ full: 'SMITH, Dr JOAN 🌸' })?.done).toEqual([
      'emoji taken off',
      'turned round from “Family, Given”',
      'capitals mended',
      '“Dr” set apart',
    ])
    expect(cleanName({ given: 'Dr JOAN', family: 'SMITH\u200b PhD' })?.done).toEqual([
      'capitals mended',
      'invisible characters taken off',
      '“Dr” set apart',
      '“PhD” set apart',
    ])
    expect(cleanName({ full: 'Joan Smith' })?.done).toEqual([])
  })

  test.each([
    [{ full: 'Anna B' }, 'the family name is one letter'],
    [{ given: 'J.', family: 'Smith' }, 'the given name is an initial'],
    [{ full: 'Jo' }, 'the given name is missing'],
    [{ given: 'Jo' }, 'the family name is missing'],
    // One character can be a whole name where names are written in characters.
    [{ given: '小龙', family: '李' }, null],
  ])('%o lacks: %s', (parts, lacks) => expect(cleanName(parts)?.incomplete).toBe(lacks))

  const WORDS = [
    'Anna',
    'MARSH',
    'van',
    'der',
    'Ploegh',
    'O’Rourke',
    'mcdonald',
    'Jean-Luc',
    'J.',
    'é',
    '李',
    'Мария',
    'Ma',
    'Dr',
    'prof.',
    'Mrs',
    '&',
    'PhD',
    'FRICS,',
    'Jr',
    '🌸',
    '👍🏽',
    '(Lee)',
    '“Bo”',
    'née',
    ',',
    '\u200b',
    '\u202eabc',
    '-',
    'i',
    'the',
    ...BEFORE_NAMES.slice(0, 6),
    ...BEHIND_NAMES.slice(0, 6),
  ]
  const messy = fc.oneof(
    fc.array(fc.constantFrom(...WORDS), { maxLength: 7 }).map((words) => words.join(' ')),
    fc.string({ unit: 'grapheme', maxLength: 24 }),
    fc.string({ unit: 'binary', maxLength: 24 }),
  )

  test('cleaning twice changes nothing', () => {
    fc.assert(
      fc.property(messy, messy, fc.boolean(), (a, b, whole) => {
        const once = cleanName(whole ? { full: a } : { given: a, family: b })
        if (!once) return
        const { given, family, name, key, sortKey, incomplete } = once
        expect(cleanName({ given, family })).toEqual({
          given,
          family,
          name,
          key,
          sortKey,
          incomplete,
          done: [],
          honorific: null,
          credentials: null,
          nickname: null,
        })
      }),
      { numRuns: 2000 },
    )
  })

  test('no letter and no digit that came is lost', () => {
    const marks = (text: string) =>
      [
        ...text
          .normalize('NFD')
          .toLowerCase()
          .toUpperCase()
          .normalize('NFD')
          .replace(/[^\p{L}\p{N}]/gu, ''),
      ]
        .sort()
        .join('')
    fc.assert(
      fc.property(messy, (full) => {
        const clean = cleanName({ full })
        if (clean)
          expect(marks([clean.name, clean.honorific, clean.credentials, clean.nickname].filter(Boolean).join(' '))).toBe(marks(full))
        else expect(/\p{L}/u.test(full)).toBe(false)
      }),
      { numRuns: 2000 },
    )
  })
})

describe('a role', () => {
  test.each([
    ['Secretary to the Head of Estates', 'assistant', 'administration'],
    ['Deputy Head', 'deputy', null],
    ['Assistant Director of Finance', 'deputy', 'finance'],
    ['Head of Estates, Facilities and Capital Programmes (Interim)', 'head', 'estates and facilities'],
    ['Headteacher', 'head', 'teaching'],
    ['Head Caretaker', 'manager', 'estates and facilities'],
    ['Head office receptionist', 'assistant', 'administration'],
    ['Estates Finance Manager', 'manager', 'finance'],
    ['FACILITIES MGR', 'manager', 'estates and facilities'],
    ['Trainee Estates Officer', 'trainee', 'estates and facilities'],
    ['HR Business Partner', null, 'people'],
    ['Senior Partner', 'owner or partner', 'general management'],
    ['Chief of Staff', 'manager', null],
    ['Managing Director', 'chief', 'general management'],
    ['Office of the CEO', null, 'general management'],
    ['Former Head of Estates', null, null],
    ['Health & Safety Adviser', 'specialist', 'health and safety'],
    ['Büro', null, null],
    ['???', null, null],
  ])('%s: %s, %s', (wording, level, about) => expect(classifyRole(wording)).toEqual({ level, function: about }))

  test('capitals, accents and marks make no difference', () => {
    const words = fc
      .array(fc.constantFrom('head', 'of', 'estates', 'deputy', 'to', 'the', 'manager', 'finance', 'secretary', 'x'), { maxLength: 6 })
      .map((w) => w.join(' '))
    fc.assert(
      fc.property(words, (wording) => {
        const found = classifyRole(wording)
        expect(classifyRole(` ${wording.toUpperCase()}. `)).toEqual(found)
        expect([...LEVELS, null]).toContain(found.level)
        expect([...FUNCTIONS, null]).toContain(found.function)
      }),
    )
  })
})

describe('an email address', () => {
  test.each([
    ['estates.manager@sedge.example', 'work', true, false],
    ['info@example.org', 'work', true, false],
    ['maud.ellery@example.org', 'work', false, false],
    ['accounts-payable@example.net', 'work', true, false],
  ])('%s is %s, of a post: %s, thrown away: %s', (address, kind, roleAccount, disposable) =>
    expect(emailTraits(address)).toEqual({ kind, roleAccount, disposable, likely: null }),
  )

  // The lists of providers come from the packages email-providers and mailchecker; one of each is asked about by place in its list.
  test('at a provider anybody can have an address of is personal; one slip from it is offered and not put in', async () => {
    const [provider] = (await import('email-providers/common.json')).default.filter(
      (domain: string) => domain.length > 8 && domain.endsWith('.com') && !domain.startsWith('example'),
    )
    expect(emailTraits(`maud@${provider}`)).toMatchObject({ kind: 'personal', likely: null })
    const slip = provider[1] + provider[0] + provider.slice(2)
    expect(emailTraits(`maud@${slip}`)).toMatchObject({ kind: 'work', likely: `maud@${provider}` })
    const mailchecker = (await import('mailchecker')).default
    const [thrown] = [...mailchecker.blacklist()]
    expect(emailTraits(`maud@${thrown}`)).toMatchObject({ disposable: true })
  })
})

test.each([
  ['HALLOW CLINIC', 'Hallow Clinic'],
  ['NHS TRUST OF PELLOW', 'NHS Trust of Pellow'],
  ['BREWERY №4', 'Brewery №4'],
  ['ST. BRANNOC’S (UPPER MARLE) LTD', 'St. Brannoc’s (Upper Marle) Ltd'],
  ['RSPX', 'RSPX'],
  ['iDairy', 'iDairy'],
])('the organisation %s is written %s, and is the same', (raw, name) => {
  expect(cleanOrganisation(raw)).toBe(name)
  expect(organisationKey(name)).toBe(organisationKey(raw))
  expect(cleanOrganisation(name)).toBe(name)
})

test('a row tells what was done to each value, with the value as it came', () => {
  const mapping = ['given', 'family', 'organisation', 'email', 'phone', 'postcode']
  const row = personRow(['JOAN', 'S', 'HALLOW CLINIC', 'Info@Example.ORG', '0113 496 0123', 'pw12ab'], mapping, 'GB') as PersonRow
  expect(row.notes.map(({ field, raw, value, what, doubt }) => [field, raw, value, what, doubt])).toEqual([
    ['name', 'JOAN S', 'Joan S', 'capitals mended', false],
    ['name', 'JOAN S', 'Joan S', 'the family name is one letter', true],
    ['organisation', 'HALLOW CLINIC', 'Hallow Clinic', 'capitals mended', false],
    ['postcode', 'pw12ab', 'PW1 2AB', 'tidied', false],
    ['email', 'Info@Example.ORG', 'info@example.org', 'put in small letters', false],
    ['email', 'Info@Example.ORG', 'info@example.org', 'an address of a post, not of one person', false],
    ['phone', '0113 496 0123', '+441134960123', 'written with its country code', false],
  ])
})
