import type { NewMember } from '@/db/team/first-member'

export const DEMO_PASSWORD = 'rain-on-the-roof'

/** The four of Brackenfold Rainworks who can sign in to the demo. */
export const DEMO_MEMBERS: Omit<NewMember, 'password'>[] = [
  { name: 'Ines Okafor', email: 'ines.okafor@brackenfold.example', post: 'coordinator' },
  { name: 'Tam Reyes', email: 'tam.reyes@brackenfold.example', post: 'caller' },
  { name: 'Beth Hallam', email: 'beth.hallam@brackenfold.example', post: 'caller' },
  { name: 'Marek Dunn', email: 'marek.dunn@brackenfold.example', post: 'manager' },
]
