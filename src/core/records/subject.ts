/** What a record is about, and so what a list can be of. */
export const SUBJECTS = ['person', 'organisation', 'premises'] as const
export type Subject = (typeof SUBJECTS)[number]

/** Several of a subject, in words. */
export const SUBJECT_NAMES: Record<Subject, string> = { person: 'people', organisation: 'organisations', premises: 'premises' }

/** Everything of a subject, as a start line says it. */
export const EVERYTHING: Record<Subject, string> = { person: 'everyone', organisation: 'every organisation', premises: 'all premises' }

/** One and several of a subject, as a table is headed. */
export const SUBJECT_TITLES: Record<Subject, { one: string; many: string }> = {
  person: { one: 'Person', many: 'People' },
  organisation: { one: 'Organisation', many: 'Organisations' },
  premises: { one: 'Premises', many: 'Premises' },
}
