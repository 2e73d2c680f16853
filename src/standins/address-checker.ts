import { fold } from '@/core/clean/fold'
import type { Checked, Filled, Gap } from '@/core/sources/source'
import { BadRequest, type Route } from './harness'
import type { Known } from './world'

const MOST = 50

/** A number from 0 to 99 that is always the same for a text: FNV-1a over its letters. */
function lot(text: string): number {
  let h = 0x811c9dc5
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193)
  return (h >>> 8) % 100
}

/** Checks addresses and tells who is behind one. What it says of an address or a domain is always the same. */
export function addressChecker(known: Known[]): { check: Route; fill: Route } {
  const byEmail = new Map(known.map((k) => [k.email.toLowerCase(), k]))
  const byProfile = new Map(known.map((k) => [k.profile, k]))
  const byName = new Map(known.map((k) => [`${fold(k.name)}|${fold(k.organisation)}`, k]))
  const check = (email: string): Checked => {
    const domain = email.toLowerCase().split('@')[1] ?? ''
    if (lot(domain) < 4) return { email, state: 'bad', why: 'the domain takes no mail' }
    if (lot(domain) < 16) return { email, state: 'uncertain', why: 'the domain takes mail for any name' }
    return lot(email.toLowerCase()) < 7
      ? { email, state: 'bad', why: 'there is no such mailbox' }
      : { email, state: 'verified', why: 'the mailbox takes mail' }
  }
  return {
    check({ emails }: { emails: string[] }): Checked[] {
      if (!Array.isArray(emails) || emails.length > MOST) throw new BadRequest(`at most ${MOST} addresses at once`)
      return emails.map(check)
    },
    fill({ gaps }: { gaps: Gap[] }): Filled[] {
      if (!Array.isArray(gaps) || gaps.length > MOST) throw new BadRequest(`at most ${MOST} at once`)
      return gaps.map(({ ref, email, profile, name, organisation, wants }) => {
        const k =
          (email && byEmail.get(email.toLowerCase())) ||
          (profile && byProfile.get(profile)) ||
          (name && organisation && byName.get(`${fold(name)}|${fold(organisation)}`)) ||
          undefined
        if (!k) return { ref, outcome: 'nothing', fields: {} }
        const state = check(k.email).state
        if (state === 'bad') return { ref, outcome: 'nothing', fields: {} }
        const all = {
          Name: k.name,
          Role: k.role,
          Organisation: k.organisation,
          'E-mail': k.email,
          Phone: k.phone,
          Street: k.street,
          Town: k.town,
          Postcode: k.postcode,
        }
        // Without a street there is no address.
        const fields = Object.fromEntries(
          Object.entries(all).filter(
            ([title, value]) =>
              value !== '' &&
              (!wants || wants.includes(title)) &&
              (k.street !== '' || !wants || (title !== 'Town' && title !== 'Postcode')),
          ),
        )
        return Object.keys(fields).length === 0 ? { ref, outcome: 'nothing', fields } : { ref, outcome: state, fields }
      })
    },
  }
}
