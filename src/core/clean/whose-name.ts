import { isGivenName } from '../match/given-names'
import { fold } from './fold'
import { squeeze } from './name'
import { BEFORE_NAMES } from './name-words'
import { organisationKey } from './organisation'
import { classifyRole } from './role'

/** The cells of a row that name somebody. */
export interface NameCells {
  full: string
  given: string
  family: string
}

/** What the cells of a name hold besides a name, or why they name no one person. */
export type WhoseName = { refused: string } | { cells: NameCells; role: string | null }

/** What stands in a name's place where there is none (common practice, no source). */
const NOBODY =
  /^(n\.?\s*\/?\s*a\.?|none|nil|null|unknown|not known|no name|nobody|anonymous|test|tbc|tbd|tba|vacant|various|xx+|\?+|[-–—.*]+|deceased|see notes?)$/i
/** Legal forms, which no person has. */
const FORM = /(^|\s)(ltd|limited|plc|llp|llc|inc|incorporated|gmbh|cic|pty|s\.?a\.?r?\.?l|b\.?v|& (co|sons|company))\.?$/i
/** The last word of what is called after what it is. */
const KIND = new Set([
  'school',
  'council',
  'college',
  'university',
  'clinic',
  'hospital',
  'surgery',
  'trust',
  'association',
  'society',
  'department',
  'brewery',
  'academy',
  'nursery',
  'committee',
  'ministry',
  'institute',
  'foundation',
  'services',
  'solutions',
  'holdings',
  'group',
])
/** What parts two people in one cell. */
const AND = /\s+(?:&|and)\s+|\s*[/;+]\s*/i
const TITLES = new Set<string>(BEFORE_NAMES.map(fold))

/**
 * Tells what the cells of a name hold: a role behind a comma or a dash is taken as the role, and what names nobody, an organisation or
 * two people is no person, and says so. A household (*Mr & Mrs Quill*) and an addressee (*The Occupier*) are one.
 */
export function whoseName({ full, given, family }: NameCells, organisation: string): WhoseName {
  const whole = squeeze(full) || squeeze(`${given} ${family}`)
  if (NOBODY.test(whole)) return { refused: `the name is “${whole}”, which is nobody’s` }
  if (isOrganisation(whole, organisation)) return { refused: `“${whole}” is an organisation, not a person` }
  if (twoPeople(squeeze(full)) || twoPeople(squeeze(given))) return { refused: `“${whole}” are two people: give each a row` }
  const apart = withoutRole(squeeze(full))
  return apart ? { cells: { full: apart.name, given, family }, role: apart.role } : { cells: { full, given, family }, role: null }
}

function isOrganisation(name: string, organisation: string): boolean {
  if (FORM.test(name) && name.includes(' ')) return true
  const words = fold(name).split(' ')
  if (words.length < 2 || isGivenName(words[0]) || words[0] === 'the') return false
  return KIND.has(words[words.length - 1]) || (organisation !== '' && organisationKey(name) === organisationKey(organisation))
}

function twoPeople(cell: string): boolean {
  const parts = cell.split(AND).map((part) => part.trim())
  if (parts.length < 2 || parts.some((part) => !/\p{L}{2}/u.test(part))) return false
  // Titles in front of one name are of a household.
  const untitled = (part: string) =>
    fold(part)
      .split(' ')
      .filter((word) => !TITLES.has(word))
  if (parts.some((part) => untitled(part).length === 0)) return false
  return parts.some((part) => isGivenName(untitled(part)[0] ?? ''))
}

/** *Maud Ellery, Head of Estates*, *Maud Ellery – Bursar*, *Maud Ellery (Bursar)*. */
function withoutRole(cell: string): { name: string; role: string } | null {
  const found = /^(.+?\s.+?)(?:,\s+|\s+[-–—|]\s+|\s+\()(.+?)\)?$/u.exec(cell)
  if (!found) return null
  const [, name, role] = found
  return !name.includes(',') && classifyRole(role).level !== null && !isGivenName(fold(role).split(' ')[0])
    ? { name: squeeze(name), role: squeeze(role) }
    : null
}
