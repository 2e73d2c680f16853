/** The database every database test is copied from. */
export const TEMPLATE = 'arch_template'
