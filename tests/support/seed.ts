import fc from 'fast-check'

/**
 * The tests are the same at every run: what a property is tried with comes from one seed. PROPERTY_SEED=random draws another, to
 * look for what nobody has thought of; the seed is in the message of a property that fails.
 */
const asked = process.env.PROPERTY_SEED
if (asked !== 'random') fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: Number(asked ?? 20261127) })
