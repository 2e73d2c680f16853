/** What stands before a name and is no part of it (common practice, no source). Without the dot that may follow. */
export const BEFORE_NAMES = [
  'mr', 'mrs', 'ms', 'miss', 'mx', 'dr', 'doctor', 'prof', 'professor', 'sir', 'dame', 'lord', 'lady', 'rev', 'revd', 'reverend', 'canon', 'fr', 'capt', 'cpt',
  'captain', 'maj', 'major', 'col', 'colonel', 'lt', 'sgt', 'cllr', 'councillor', 'the hon', 'hon', 'herr', 'frau', 'mme', 'mlle', 'm.', 'ing', 'dipl.-ing', 'messrs',
] as const

/** Degrees, memberships and the like that stand behind a name (common practice, no source). */
export const BEHIND_NAMES = [
  'phd', 'ph.d', 'dphil', 'md', 'm.d', 'ba', 'b.a', 'bsc', 'b.sc', 'beng', 'meng', 'ma', 'msc', 'm.sc', 'mba', 'm.b.a', 'llb', 'llm', 'jd', 'mphil', 'pgce',
  'frics', 'mrics', 'assocrics', 'ceng', 'ieng', 'mice', 'fice', 'mcibse', 'fcibse', 'miet', 'riba', 'arb', 'ciob', 'mciob', 'fciob', 'iwfm', 'miwfm', 'fiwfm', 'cipd', 'mcipd',
  'fcipd', 'aca', 'fca', 'acca', 'fcca', 'cima', 'cpa', 'pmp', 'cfm', 'obe', 'mbe', 'cbe', 'kbe', 'jp', 'dl', 'qc', 'kc', 'frsa', 'esq', 'hons', 'ii', 'iii', 'iv', 'jr', 'jnr', 'junior', 'sr', 'snr', 'senior',
] as const

/** Small words that belong to a family name and are written small within it. */
export const PARTICLES: ReadonlySet<string> = new Set([
  'van', 'von', 'der', 'den', 'de', 'vom', 'af', 'av', 'het', 't', 'te', 'tot', 'op', 'uit', 'des', 'dem', 'le', 'les', 'del', 'dels', 'dal', 'dalla', 'dei', 'degli', 'delle', 'dello', 'lo', 'abu', 'abd', 'ould', 'ap', 'ab', 'mac', 'nic', 'ni', 'st', 'saint', 'sainte', 'santa', 'santo', 'i', 'la', 'las', 'los', 'del', 'della', 'di', 'da', 'das', 'do', 'dos', 'du', 'ter', 'ten', 'zu', 'zum', 'zur', 'y', 'e', 'bin', 'ibn', 'bint', 'al', 'el',
])
