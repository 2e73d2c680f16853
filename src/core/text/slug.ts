/** A name as part of a file's name: small letters of ASCII, figures and hyphens. `otherwise` stands where nothing of it is left. */
export const slugOf = (name: string, otherwise: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || otherwise
