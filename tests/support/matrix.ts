import type { ListRole } from '@/core/records/list-roles'
import { firstPolicy } from '@/core/screening/rules'
import type { Actor } from '@/usecases/team/actor'

/** What one of the application's routes, actions and pages needs of who asks. */
export interface Needs {
  /** What its number names: something of a list, which opens by what somebody may do with that list; something of the team; or nothing. */
  of?: 'list' | 'round' | 'released' | 'proposal' | 'enquiry' | 'batch' | 'person' | 'anything'
  /** The least role on the list; or its owner alone. */
  role?: ListRole | 'owner'
  post?: 'coordinator' | 'manager'
  /** What it is asked, given the number and what the test has. A route gets a body (or, of a GET, what stands after the question mark), an action its arguments. */
  ask?: (id: number, has: Has) => unknown
  /** Whether nothing is there for a number beside (a channel, an edition): it answers that before the question who may. */
  params?: Record<string, string>
  /** What is asked of it beside is not there in this test, so that whoever is let through is told so. */
  empty?: true
  /** Whoever may not is told that there is none, not that they may not. */
  hidden?: true
  /** What stands after the question mark of a request that has a body. */
  query?: Record<string, string>
  /** Goes on as if refused where what is asked is only not possible just now. */
  why?: string
}

export interface Has {
  person: number
  other: number
  lines: unknown[]
}

const START = { id: 's', verb: 'start', off: false, batch: null }
export const LINES: unknown[] = [START]
const HOW = { kind: 'people', mapping: ['name'], shaping: {} }
const ON = { lines: LINES, view: { tab: 'on' } }
const AREA = {
  polygons: [
    [
      [
        [1.49, 55.29],
        [1.51, 55.29],
        [1.51, 55.31],
        [1.49, 55.31],
      ],
    ],
  ],
  circles: [],
  streets: [],
}
const WORD = { reason: 'other', channels: ['email'], word: 'a letter' }
const nothing = () => ({})

/** Every route by its file and method: a new one fails the test until what it needs is written down here. */
export const ROUTES: Record<string, Needs> = {
  '(book)/intake/[id]/rows GET': { of: 'batch', empty: true, ask: () => ({ outcome: 'refused' }) },
  '(book)/directory/people/[id]/file GET': { of: 'person', post: 'coordinator', ask: () => ({ as: 'json' }) },
  '(book)/directory/people/[id]/proof/file GET': { of: 'person', post: 'coordinator', ask: () => ({ day: '2026-06-15' }) },
  '(book)/rounds/[id]/files/[channel] GET': { of: 'released', role: 'use', params: { channel: 'email' }, ask: nothing },
  '(book)/rounds/[id]/files/labels GET': { of: 'released', role: 'use', query: { sheet: 'a4-3x7' }, ask: nothing, empty: true },
  '(book)/rounds/[id]/files/all GET': { of: 'released', role: 'use', ask: nothing },
  '(book)/rounds/[id]/files/about GET': { of: 'released', role: 'use', ask: nothing },
  '(book)/screening/suppressions GET': { ask: nothing },
  'api/areas GET': { ask: () => ({ ids: '1' }) },
  'api/areas POST': { ask: () => ({ name: 'x', shape: AREA, shared: false, named: true, replaces: null }) },
  'api/batches POST': { post: 'coordinator', query: { name: 'x.csv' }, ask: nothing, why: 'a file is sent as it is' },
  'api/batches/[id] GET': { of: 'batch', ask: nothing },
  'api/batches/[id]/doubts GET': { of: 'batch', empty: true, ask: () => ({ row: '1' }) },
  'api/batches/[id]/preview POST': { of: 'batch', ask: nothing },
  'api/batches/[id]/rows POST': { of: 'batch', ask: () => ({ outcome: 'new', offset: 0 }) },
  'api/change-kinds GET': { ask: nothing },
  'api/changes/file POST': { post: 'coordinator', query: { name: 'x.csv' }, ask: nothing, why: 'a file is sent as it is' },
  'api/changes POST': { ask: () => ({ tab: 'all', offset: 0 }) },
  'api/comparisons GET': { post: 'coordinator', ask: nothing },
  'api/comparisons/[id] POST': { post: 'coordinator', params: { id: '1' }, empty: true, ask: nothing, why: 'a file is sent as it is' },
  '(book)/screening/compare/[id]/[file] GET': { post: 'coordinator', params: { id: '1', file: 'offer' }, empty: true, ask: nothing },
  'api/prices GET': { post: 'coordinator', ask: nothing, why: 'the source is not there in this test' },
  'api/doubles GET': { ask: (_, { person, other }) => ({ a: String(person), b: String(other) }) },
  'api/editions/[id] POST': { of: 'list', role: 'see', ask: () => ({ earlier: 1, later: 1, tab: 'left', offset: 0 }) },
  'api/enquiries/[id] GET': { of: 'enquiry', role: 'see', ask: nothing },
  'api/enquiries/[id]/tried GET': { of: 'enquiry', role: 'use', post: 'coordinator', ask: () => ({ list: '1' }), empty: true },
  'api/enquiries/[id]/items GET': { of: 'enquiry', role: 'see', ask: () => ({ state: 'open' }) },
  'api/hand GET': { ask: nothing },
  'api/industries GET': { ask: () => ({ find: 'school' }) },
  'api/list-account POST': { ask: () => ({ ...ON, offset: 0 }) },
  'api/list-alike POST': { ask: (_, { person }) => ({ lines: LINES, ids: [person], chosen: [person] }) },
  'api/list-group POST': { ask: () => ({ ...ON, key: 'town' }) },
  'api/list-map POST': { ask: () => ({ ...ON, box: [1, 55, 2, 56], columns: 10 }) },
  'api/list-presence POST': { ask: (_, { person }) => ({ lines: LINES, ids: [person] }) },
  'api/premises-post/[id] GET': { of: 'list', role: 'see', ask: nothing, empty: true },
  'api/list-resize POST': { ask: () => ({ lines: LINES, least: 0, most: 1 }) },
  'api/list-profile POST': { ask: () => ({ ...ON, facets: ['town'] }) },
  'api/lists/[id]/csv POST': { of: 'list', role: 'use', ask: () => ({ ...ON }) },
  'api/lists/[id]/here POST': { of: 'list', role: 'see', ask: () => ({ working: false }) },
  'api/lists/[id]/upload POST': { of: 'list', role: 'see', query: { name: 'x.csv' }, ask: nothing, why: 'a file is sent as it is' },
  'api/map GET': { ask: nothing },
  'api/mappings GET': { ask: nothing },
  'api/merge POST': { post: 'coordinator', ask: (_, { person, other }) => ({ keep: person, merge: other }) },
  'api/news GET': { ask: nothing },
  'api/organisations POST': { ask: () => ({ find: 'a', sort: 'name', offset: 0 }) },
  'api/people POST': { ask: () => ({ find: 'a', sort: 'name', offset: 0 }) },
  'api/premises POST': { ask: () => ({ find: 'a', sort: 'name', offset: 0 }) },
  'api/proposals/[id] GET': { of: 'proposal', role: 'edit', hidden: true, ask: nothing },
  'api/proposals/[id] POST': { of: 'proposal', role: 'edit', hidden: true, ask: () => ({ tab: 'left', offset: 0 }) },
  'api/records/[subject]/[id] GET': { of: 'person', params: { subject: 'person' }, ask: nothing },
  'api/requalify/[id] POST': {
    of: 'released',
    role: 'see',
    ask: () => ({ view: { account: 'listed', tab: 'left' }, offset: 0 }),
    params: { list: 'yes' },
  },
  'api/role-wordings POST': { ask: () => ({ concept: 'x', wording: 'y' }) },
  'api/rounds/[id]/check POST': { of: 'released', role: 'use', empty: true, ask: () => ({ person: 900_000, channel: 'email' }) },
  'api/rounds/[id]/labels GET': { of: 'released', role: 'use', ask: () => ({ sheet: 'a4-3x7' }), empty: true },
  'api/rounds/[id]/fit GET': { of: 'round', role: 'see', ask: nothing },
  'api/rounds/[id]/fit/patterns GET': { of: 'round', role: 'see', ask: nothing },
  'api/rounds/[id] POST': { of: 'round', role: 'see', ask: () => ({ view: { tab: 'held' }, offset: 0 }) },
  'api/streets POST': { ask: () => ({ typed: 'Mill' }) },
  'api/policies/try/[id] POST': {
    of: 'list',
    role: 'see',
    ask: () => ({ before: firstPolicy(), after: firstPolicy(), tab: 'held', offset: 0 }),
  },
  'api/suppressions POST': { ask: () => ({ find: '', reason: null, offset: 0 }) },
  'health GET': { ask: nothing, why: 'anybody may ask whether it is up' },
}

/** Every action by its file and name. */
export const ACTIONS: Record<string, Needs> = {
  'changes act': { ask: () => [999_999, 'take'], why: 'it names no change' },
  'changes putOff': { ask: () => [999_999, null], why: 'it names no change' },
  'changes looked': { ask: () => [] },
  'changes contact': { ask: (_, { person }) => [person, { channel: 'phone', result: 'spoke' }] },
  'changes decide': { ask: () => [999_999, 'confirm'], why: 'it names no change' },
  'changes undecide': { ask: () => [999_999], why: 'it names no change' },
  'changes report': { ask: (_, { person }) => [{ of: 'person', record: person, kind: 1, day: '2026-06-01' }] },
  'changes followOneList': { of: 'list', role: 'see', ask: (id) => [id, true] },
  'changes followOneRecord': { ask: (_, { person }) => ['person', person, true] },
  'changes muteOneKind': { ask: () => [1, true] },
  'changes saveOneKind': { post: 'coordinator', ask: () => [null, { name: 'Moved in', asks: 'opening' }] },
  'changes archiveOneKind': { post: 'coordinator', ask: () => [999_999], why: 'it names no kind' },
  'changes readFeeds': { post: 'coordinator', ask: () => [] },
  'changes reach': { ask: () => [30] },
  'rounds drawSample': {
    of: 'round',
    role: 'use',
    post: 'coordinator',
    ask: (id) => [id, { kind: 'fixed', wanted: 0.9, sure: 95, size: 20 }],
    empty: true,
  },
  'rounds judge': { ask: (_, { person }) => [999_999, person, { verdict: 'fits' }], why: 'it names no check' },
  'rounds unjudge': { ask: (_, { person }) => [999_999, person], why: 'it names no check' },
  'rounds endCheck': { post: 'coordinator', ask: () => [999_999], why: 'it names no check' },
  'rounds tighten': { of: 'round', role: 'use', ask: (id) => [id, 'town Thornmouth'], empty: true },
  'lists rhythm': { of: 'list', role: 'edit', ask: (id) => [id, { every: 'month', day: 1 }] },
  'lists openers': { of: 'list', role: 'edit', ask: (id) => [id, []] },
  'lists placement': { of: 'list', role: 'edit', ask: (id) => [id, { how: 'proposal', kinds: [] }] },
  'lists onlyFollow': { of: 'list', role: 'edit', ask: (id) => [id, false] },
  'today make': {
    ask: (_, { person }) => [{ what: 'call back', forId: 'nobody', of: 'person', id: String(person) }],
    why: 'it names no colleague',
  },
  'today done': { ask: () => [999_999, true], why: 'it names no task' },
  'today hand': { ask: () => [999_999, 'nobody'], why: 'it names no task' },
  'today move': { ask: () => [999_999, null], why: 'it names no task' },
  'lists newList': { ask: () => ['A new list', false, 'person'] },
  'lists saveList': { of: 'list', role: 'edit', ask: (id) => [id, 1, LINES, ''] },
  'lists saveColumns': { ask: () => ['person', 'Calls', { columns: ['reach'] }] },
  'lists dropColumns': { ask: () => [999_999], why: 'one’s own, or a coordinator’s' },
  'lists table': { of: 'list', role: 'see', ask: (id) => [id, { columns: ['name'] }] },
  'lists listOf': { ask: (_, { person }) => [{ of: 'person', ids: [person] }] },
  'lists newListOf': { ask: () => ['A new list', false, LINES] },
  'lists goBack': { of: 'list', role: 'edit', ask: (id) => [id, 1] },
  'lists shelve': { of: 'list', role: 'owner', ask: (id) => [id, { archived: true }] },
  'lists areaAway': { ask: (id) => [id, true] },
  'lists picks': { of: 'list', role: 'see', ask: (id, { person }) => [id, { people: [person] }] },
  'lists fold': { of: 'list', role: 'see', ask: (id) => [id, [1, 2]] },
  'lists mark': { ask: (_, { person }) => [{ people: [person] }, { tag: 'roof' }] },
  'lists owners': { of: 'list', role: 'use', post: 'coordinator', ask: (id) => [id, { ...ON, having: null }] },
  'lists unmark': { ask: (id) => [id] },
  'lists draft': { of: 'list', role: 'see', ask: (id) => [id, 1, LINES] },
  'lists inHand': { of: 'list', role: 'see', ask: (id) => [id] },
  'lists putOn': { ask: (_, { person }) => ['in', { of: 'person', ids: [person] }, ''], why: 'it goes onto the list in hand' },
  'lists copy': { of: 'list', role: 'use', ask: (id) => [id] },
  'lists rename': { of: 'list', role: 'owner', ask: (id) => [id, 'Another name'] },
  'lists share': { of: 'list', role: 'owner', ask: (id) => [id, { team: 'see', members: [] }] },
  'lists give': { of: 'list', role: 'owner', ask: (id) => [id, 'nobody'] },
  'lists comment': { of: 'list', role: 'see', ask: (id) => [id, 's', 'All of them?'] },
  'lists settle': { of: 'list', role: 'see', ask: (id) => [id, 's'] },
  'lists proposeLines': {
    of: 'list',
    role: 'see',
    ask: (id) => [
      id,
      1,
      [START, { id: 'k', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'tag', any: ['roof'] } }],
      'why',
    ],
  },
  'lists settleProposal': { of: 'proposal', role: 'edit', ask: (id) => [id, 'take', ''] },
  'lists remove': { of: 'list', role: 'owner', ask: (id) => [id] },
  'lists restore': { of: 'list', role: 'owner', empty: true, hidden: true, ask: (id) => [id] },
  'lists start': { of: 'list', role: 'use', post: 'coordinator', ask: (id) => [id] },
  'screening/compare begin': { post: 'coordinator', ask: () => ['Fell Outreach'] },
  'screening/compare drop': { post: 'coordinator', ask: () => [1], empty: true },
  'screening/audit carried': { post: 'coordinator', ask: () => [1, 1, 'email'] },
  'screening/audit carriedBack': { post: 'coordinator', ask: () => [1, 1, 'email'] },
  'screening/policies make': { post: 'coordinator', ask: () => [`Policy ${Math.random()}`, 1] },
  'screening/policies save': { post: 'coordinator', ask: () => [1, 1, firstPolicy(), 'why'] },
  'screening/policies rename': { post: 'coordinator', ask: () => [1, `Policy ${Math.random()}`] },
  'screening/policies makeDefault': { post: 'coordinator', ask: () => [1] },
  'screening/policies archive': { post: 'coordinator', ask: () => [1, true] },
  'screening/policies choose': { of: 'list', role: 'edit', post: 'coordinator', ask: (id) => [id, null] },
  'rounds passAll': { of: 'round', role: 'use', post: 'coordinator', ask: (id, { person }) => [id, [person], 'email', 'why'] },
  'rounds passAllBack': { of: 'round', role: 'use', post: 'coordinator', ask: (id, { person }) => [id, [person], 'email'] },
  'rounds takePolicyOf': { of: 'round', role: 'use', post: 'coordinator', ask: (id) => [id] },
  'rounds changeRules': { of: 'round', role: 'use', post: 'coordinator', ask: (id) => [id, firstPolicy()] },
  'rounds release': {
    of: 'round',
    role: 'use',
    post: 'coordinator',
    ask: (id) => [id, { basis: 'another', clear: { email: 0, phone: 0, post: 0, direct: 0 } }],
  },
  'rounds close': { of: 'released', role: 'use', post: 'coordinator', ask: (id) => [id] },
  'rounds pass': { of: 'round', role: 'use', post: 'coordinator', ask: (id, { person }) => [id, person, 'email', 'they asked for it'] },
  'rounds passBack': { of: 'round', role: 'use', post: 'coordinator', empty: true, ask: (id, { person }) => [id, person, 'email'] },
  'directory contact': { of: 'person', ask: (id) => [id, { channel: 'phone', result: 'spoke' }] },
  'directory note': { of: 'person', ask: (id) => [id, 'A note.'] },
  'directory setField': { of: 'person', empty: true, ask: (id) => [id, 1, 'x'] },
  'directory suppressPerson': { of: 'person', ask: (id) => [id, WORD] },
  'directory suppressLines': { ask: () => [['nobody@way.example'], WORD] },
  'directory suppressTarget': { ask: () => [{ text: 'nobody@way.example' }, WORD] },
  'directory merge': { of: 'person', post: 'coordinator', ask: (id, { person }) => [person, id] },
  'directory erase': { of: 'anything', post: 'manager', empty: true, ask: () => [900_000] },
  'directory lift': { of: 'anything', post: 'coordinator', ask: (id) => [id, 'a word'] },
  'directory liftNoLongerRegistered': { post: 'coordinator', ask: () => [{ register: 'none', expected: 0, why: 'x' }] },
  'directory shareOfLifts': { post: 'coordinator', ask: () => [5] },
  'directory takeLiftBack': { of: 'anything', post: 'coordinator', ask: (id) => [id] },
  'directory lookForDoubles': { post: 'coordinator', ask: () => [] },
  'directory decide': { post: 'coordinator', ask: (_, { person, other }) => [person, other, 'different'] },
  'directory reopen': { post: 'coordinator', ask: (_, { person, other }) => [person, other] },
  'directory takeBack': { of: 'anything', post: 'coordinator', ask: (id) => [id] },
  'intake bringIn': { of: 'batch', post: 'coordinator', ask: (id) => [id, HOW, {}] },
  'intake readAnew': { of: 'batch', post: 'coordinator', ask: (id) => [id, {}] },
  'intake tryOut': { of: 'batch', post: 'coordinator', ask: (id) => [id, HOW, {}] },
  'intake settle': { of: 'batch', empty: true, post: 'coordinator', ask: (id) => [id, 1, 'new'] },
  'intake startAgain': { of: 'batch', post: 'coordinator', ask: (id) => [id] },
  'intake undo': { of: 'batch', post: 'coordinator', ask: (id) => [id] },
  'intake declare': { post: 'coordinator', ask: () => [{ name: 'A field', kind: 'text', choices: [] }] },
  'intake saveMapping': { of: 'batch', post: 'coordinator', ask: (id) => [id, HOW, 'A mapping'] },
  'intake dropMapping': { post: 'coordinator', ask: (id) => [id] },
  'intake/enquiries find': { post: 'coordinator', ask: () => ['directory', { words: 'school', subKinds: [], districts: [] }] },
  'intake/enquiries split': { of: 'enquiry', role: 'see', post: 'coordinator', ask: (id) => [id, 'district'] },
  'intake/enquiries want': { of: 'enquiry', role: 'see', post: 'coordinator', ask: (id) => [id, ['email']] },
  'intake/enquiries buyFor': {
    of: 'enquiry',
    role: 'use',
    post: 'coordinator',
    empty: true,
    ask: (id) => [id, 900_000, { open: false, most: 1 }],
  },
  'intake/enquiries begin': { of: 'enquiry', role: 'use', post: 'coordinator', ask: (id) => [id, null] },
  'intake/enquiries stop': { of: 'enquiry', role: 'use', post: 'coordinator', ask: (id) => [id] },
  'intake/enquiries asBatch': { of: 'enquiry', role: 'use', post: 'coordinator', ask: (id) => [id] },
  'intake/enquiries check': { of: 'list', role: 'use', post: 'coordinator', ask: (id) => [{ list: id, name: 'x' }] },
  'intake/enquiries fill': { of: 'list', role: 'use', post: 'coordinator', ask: (id) => [{ list: id, name: 'x' }, ['phone']] },
  'intake/enquiries goodFor': { post: 'coordinator', ask: () => [180] },
  'team add': { post: 'manager', ask: () => [{ name: 'New One', email: `new-${Math.random()}@way.example`, post: 'caller' }] },
  'team change': { post: 'manager', ask: () => ['nobody', { name: 'X', email: 'x@way.example', post: 'caller' }] },
  'team addOwnPost': { ask: () => [{ organisation: 'Weir School', from: '2019-01-01', to: null }] },
  'team removeOwnPost': { ask: () => [999_999], why: 'one’s own' },
  'directory/people say': { ask: (_, { person }) => [person, 'met'] },
  'directory/people acquaintTwo': { ask: (_, { person, other }) => [person, other, 'met'] },
  'directory/people askFor': { ask: (_, { person }) => [{ person, of: 'nobody' }], why: 'it names no colleague' },
  'directory/people answerTo': { ask: () => [999_999, true, ''], why: 'it names no introduction' },
  'directory/people takeBackAsked': { ask: () => [999_999], why: 'it names no introduction' },
  'team newPassword': { post: 'manager', ask: () => ['nobody'] },
  'team takeBack': { post: 'manager', ask: () => ['nobody'] },
  'team remove': { post: 'manager', ask: () => ['nobody'] },
  'team changePassword': { ask: () => ['before-this', 'a-new-password'], why: 'of who asks' },
  '/sign-in signIn': { ask: () => [{}, new FormData()], why: 'for whoever is not in yet' },
  '/sign-in signOut': { ask: () => [], why: 'of who asks' },
}

/** Every page, by its folder; one that somebody may not see is not there for them. */
export const PAGES: Record<string, Needs> = {
  '(book)/changes': {},
  '(book)/changes/following': {},
  '(book)/changes/movement': {},
  '(book)/directory': {},
  '(book)/directory/doubles': {},
  '(book)/directory/organisations/[id]': { of: 'anything' },
  '(book)/directory/people/[id]': { of: 'person' },
  '(book)/directory/people/[id]/proof': { of: 'person' },
  '(book)/directory/premises/[id]': { of: 'anything' },
  '(book)/intake': {},
  '(book)/intake/[id]': { of: 'batch' },
  '(book)/intake/enquiries': {},
  '(book)/intake/enquiries/[id]': { of: 'enquiry', role: 'see' },
  '(book)/intake/enquiries/new': { of: 'list', role: 'see', query: { list: 'yes' } },
  '(book)/lists': {},
  '(book)/lists/[id]': { of: 'list', role: 'see' },
  '(book)/lists/[id]/editions': { of: 'list', role: 'see' },
  '(book)/lists/[id]/map': { of: 'list', role: 'see' },
  '(book)/lists/[id]/profile': { of: 'list', role: 'see' },
  '(book)/lists/[id]/requalify': { of: 'released', role: 'see', params: { list: 'yes' } },
  '(book)/lists/areas': {},
  '(book)/rounds': {},
  '(book)/rounds/[id]': { of: 'round', role: 'see' },
  '(book)/rounds/[id]/check': { of: 'round', role: 'see' },
  '(book)/screening': {},
  '(book)/screening/audit': { post: 'coordinator', hidden: true },
  '(book)/screening/compare': { post: 'coordinator', hidden: true },
  '(book)/screening/compare/[id]': { post: 'coordinator', hidden: true, params: { id: '1' }, empty: true },
  '(book)/screening/policies': {},
  '(book)/screening/policies/[id]': { params: { id: '1' } },
  '(book)/words': {},
  '(book)/team': {},
  '(book)/today': {},
}

const POSTS: Actor['post'][] = ['caller', 'coordinator', 'manager']
/** Whether a post is at least what is needed. */
export const postEnough = (post: Actor['post'], needed: Needs['post']): boolean =>
  needed === undefined || POSTS.indexOf(post) >= POSTS.indexOf(needed)

/** What is sent in place of something that was asked for. */
export const WRONG: unknown[] = [
  null,
  undefined,
  -1,
  1.5,
  2 ** 60,
  Number.NaN,
  '',
  'x',
  '\u0000',
  '\ud800',
  'a'.repeat(70_000),
  true,
  {},
  { id: {} },
  [],
  [null],
  [[]],
  [{}],
  { tab: {} },
  { kind: 7 },
  ['\u0000'],
]
