import { db } from '@/db/connection'

/** The people the sign-in page offers with one press: those of the demo data, and nobody anywhere else. */
export async function demoMembers(): Promise<{ name: string; email: string; post: string; password: string }[]> {
  const password = await db()('setting').where({ name: 'demo-password' }).first('value')
  if (!password) return []
  const members = await db()('user')
    .whereNull('left_at')
    .where('email', 'like', '%@brackenfold.example')
    .orderBy('createdAt')
    .select('name', 'email', 'post')
  return members.map((m) => ({ ...m, password: password.value }))
}
