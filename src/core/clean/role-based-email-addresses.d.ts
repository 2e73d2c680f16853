declare module 'role-based-email-addresses' {
  /** The part before the @ of addresses that belong to a post, not to a person. */
  const names: string[]
  export default names
}
