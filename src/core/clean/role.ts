import { fold } from './fold'

/** How high a role stands, from the top down. *Deputy* is second to a head, a director or a manager and is none of them. */
export const LEVELS = ['owner or partner', 'chief', 'director', 'head', 'deputy', 'manager', 'specialist', 'assistant', 'trainee'] as const
export type Level = (typeof LEVELS)[number]

/** What a role is about. */
export const FUNCTIONS = [
  'estates and facilities',
  'sustainability',
  'health and safety',
  'finance',
  'procurement',
  'operations',
  'people',
  'sales and communications',
  'technology',
  'teaching',
  'care',
  'engineering and works',
  'administration',
  'general management',
] as const
export type RoleFunction = (typeof FUNCTIONS)[number]

export interface RoleClass {
  level: Level | null
  function: RoleFunction | null
}

/**
 * The level and the function that a role's wording tells; null where it does not. The words after *to* or *for* are
 * somebody else's role (a secretary to the head of estates heads nothing); those after *of* tell what it is about. Where
 * a wording names several roles, the first that can be told counts. A former role is no role.
 * Word lists: common practice, no source.
 */
export function classifyRole(wording: string): RoleClass {
  const level: RoleClass = { level: null, function: null }
  for (const part of wording.replace(/\([^)]*\)/g, ' ').split(/[/|;]|,(?=\s)/)) {
    const words = ` ${fold(part)} `.replace(/ (vice|deputy|co|ex) ?(?=president|head|director|chair|owner|founder)/g, ' $1 ')
    if (/^ (former|ex|past|previously|retired|late) /.test(words)) continue
    const own = words.replace(/ (reporting |assisting )?(to|for) .*$/, ' ')
    const found = { level: levelOf(own), function: functionOf(own, own !== words) }
    level.level ??= found.level
    level.function ??= found.function
    if (level.level && level.function) break
  }
  return level
}

const SECOND =
  / (deputy|assistant|associate|vice|second|sub) (\w+ )?(head|headteacher|director|manager|principal|chief|dean|chair|bursar) | (deputy|vice) (head|chair|principal)/
const LEVEL_WORDS: [Level, RegExp][] = [
  ['trainee', / (trainee|apprentice|intern|student|graduate|cadet|work experience) /],
  ['assistant', / (personal|executive|private) (assistant|secretary) | (pa|ea) $/],
  ['director', / vice president | vp /],
  ['deputy', SECOND],
  ['manager', / chief of staff /],
  ['chief', / (chief|ceo|cfo|coo|cto|cio|president|managing director|chairman|chairwoman|chairperson|md) | chair /],
  ['owner or partner', / (owner|proprietor|founder|freeholder) | (?<!business )partner /],
  ['director', / director /],
  ['head', / head (of|teacher|master|mistress) | (headteacher|headmaster|headmistress|principal|dean|provost|rector) | head $/],
  ['manager', / (manager|manageress|lead|leader|supervisor|foreman|forewoman|head|superintendent|bursar|mgr|matron) /],
  ['assistant', / (assistant|secretary|clerk|receptionist|administrator|helper|typist) /],
  [
    'specialist',
    / (officer|coordinator|co ordinator|adviser|advisor|engineer|surveyor|technician|caretaker|teacher|nurse|accountant|architect|analyst|buyer|planner|specialist|consultant|gardener|keeper|warden|treasurer|controller|executive|agent|inspector|steward|janitor|custodian) /,
  ],
]

function levelOf(words: string): Level | null {
  // What comes after *of* is what the role is about, unless *head of* and the like is the level itself.
  const before = words.replace(/ head office(?= )/, ' ').replace(/ of (?!staff ).*$/, ' of ')
  for (const [level, pattern] of LEVEL_WORDS) if (pattern.test(before)) return level
  return null
}

const FUNCTION_WORDS: [RoleFunction, RegExp][] = [
  ['health and safety', / (health (and )?safety|safety|hse|sheq|she|ehs)(?= )/g],
  [
    'estates and facilities',
    / (estates?|facilit\w+|premises|sites?|buildings?|propert\w+|caretak\w+|maintenance|grounds|janitor|custodian|housing|accommodation|housekeep\w+)(?= )/g,
  ],
  ['sustainability', / (sustainab\w+|environment\w*|energy|carbon|climate|ecology|biodiversity)(?= )/g],
  ['finance', / (financ\w+|account(s|ant|ants|ing)|bursar|treasur\w+|payroll|audit\w*|cfo)(?= )/g],
  ['procurement', / (procurement|purchas\w+|buyer|buying|sourcing|contracts)(?= )/g],
  ['people', / (hr|human resources|people|talent|recruit\w+|personnel)(?= )/g],
  [
    'sales and communications',
    / (sales|marketing|business development|communications?|press|public relations|fundraising|media|brand)(?= )/g,
  ],
  ['technology', / (it|ict|technology|software|digital|data|systems|cto|cio|web)(?= )/g],
  ['teaching', / (teach\w*|headteacher|headmaster|headmistress|education|learning|curriculum|lecturer|professor)(?= )/g],
  ['care', / (nurs(e|es|ing)|care|clinical|medical|doctor|gp|matron|patients?|therap\w+|ward)(?= )/g],
  ['operations', / (operations?|operational|logistics|production|plant|warehouse|supply chain|coo|transport|fleet)(?= )/g],
  ['engineering and works', / (engineer\w*|works|projects?|survey\w+|architect\w*|construction|technical|civil|design)(?= )/g],
  ['administration', / (admin\w*|office|secretar\w+|reception\w*|clerk|clerical|personal assistant|pa|typist)(?= )/g],
  [
    'general management',
    / (ceo|chief executive|managing director|general manager|owner|proprietor|president|chair\w*|founder|md)(?= )| (?<!business )partner(?= )/g,
  ],
]

/** What a role is about: the first thing after *of*; else the last thing named, since that stands nearest to the role. */
function functionOf(words: string, supports: boolean): RoleFunction | null {
  if (supports && / (assistant|secretary|pa|ea|clerk) /.test(words)) return 'administration'
  const [, of] = / of( .*)$/.exec(words) ?? []
  const found = FUNCTION_WORDS.flatMap(([name, pattern]) =>
    Array.from((of ?? words).matchAll(pattern), (m) => ({ name, at: m.index as number })),
  )
  if (found.length === 0) return of === undefined ? null : functionOf(words.replace(/ of .*$/, ' '), false)
  return found.reduce((best, next) => ((of === undefined ? next.at > best.at : next.at < best.at) ? next : best)).name
}
