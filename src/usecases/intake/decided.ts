/** Who a row in doubt is, as somebody decided: a person by id, or somebody new. */
export type Decided = { person: number } | 'new'
