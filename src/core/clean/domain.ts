import { isDomainValid } from '@hapi/address'
import { squeeze } from './name'

/** An e-mail domain as it stands behind the @, in small letters; null where it is none. A leading @ is taken off. */
export function cleanDomain(raw: string): string | null {
  const domain = squeeze(raw).toLowerCase().replace(/^@/, '').replace(/\.$/, '')
  return domain !== '' && isDomainValid(domain) ? domain : null
}

/** The domain of an e-mail address that is already clean. */
export const domainOf = (email: string): string => email.slice(email.lastIndexOf('@') + 1)
