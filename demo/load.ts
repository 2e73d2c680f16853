import { connect } from '@/db/connection'
import { addMember } from '@/db/first-person'
import { DEMO_MEMBERS, DEMO_PASSWORD } from './people'

export async function loadDemo(owner: string, say: (line: string) => void): Promise<void> {
  const db = connect(owner, 2)
  for (const member of DEMO_MEMBERS) await addMember(db, { ...member, password: DEMO_PASSWORD })
  await db('setting').insert({ name: 'demo-password', value: DEMO_PASSWORD })
  say('four people')
  await db.destroy()
}
