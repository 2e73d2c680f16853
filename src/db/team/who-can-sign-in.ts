import { connect } from '@/db/connection'

/** Run by bin/start once everything is up: says how to sign in. */
const db = connect(process.env.APP_DATABASE_URL as string, 1)
const began = await db('setting').where({ name: 'began' }).first('value')
if (began?.value === 'demo')
  console.log('The sign-in page offers the four demo people with one press (their password is rain-on-the-roof).')
else console.log('Sign in with the email and password you were given.')
await db.destroy()
