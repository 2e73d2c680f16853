import { object, string } from 'yup'
import { cleanEmail } from '@/core/clean/email'
import { trimmed } from '@/core/clean/name'
import { readLetter } from '@/core/rounds/letter'
import type { Letter } from '@/core/views/letter-views'
import type { LetterText } from '@/db/rounds/letter-rows'
import { Refused } from '@/usecases/team/actor'

const line = (most: number, long: string) =>
  string()
    .transform((value: unknown) => (typeof value === 'string' ? trimmed(value.replace(/\s+/g, ' ')) : value))
    .max(most, long)

const schema = object({
  subject: line(200, 'The subject holds at most 200 characters.').required('Write a subject.'),
  body: string().max(20_000, 'The letter holds at most 20,000 characters.').required('Write the letter.'),
  senderName: line(100, 'The sender’s name holds at most 100 characters.').required('Say who sends it.'),
  senderEmail: line(200, 'The sender’s email address is too long.')
    .required('Give the sender’s email address.')
    .test('email', 'The sender’s email address cannot be right.', (value) => {
      const email = cleanEmail(value ?? '')
      return email?.usable === true
    }),
  address: string()
    .transform(trimmed)
    .max(400, 'The postal address holds at most 400 characters.')
    .required('Give the sender’s postal address. It stands in every email.'),
})

/** A letter as it was handed in. Throws a ValidationError, or Refused, naming everything that is wrong with it. */
export function letterMeant(raw: unknown): LetterText {
  const { subject, body, senderName, senderEmail, address } = schema.validateSync(raw, { abortEarly: false })
  const troubles = troublesOf({ subject, body })
  if (troubles.length > 0) throw new Refused(`${troubles.join(' ')} Nothing was saved.`)
  return {
    subject,
    body: body.replaceAll('\r\n', '\n'),
    sender_name: senderName,
    sender_email: cleanEmail(senderEmail)?.normal ?? senderEmail,
    address,
  }
}

/** What cannot be read of a subject and a letter. */
export const troublesOf = ({ subject, body }: Pick<Letter, 'subject' | 'body'>): string[] => [
  ...readLetter(subject).troubles.map((trouble) => trouble.replace(/^Line \d+/, 'Subject')),
  ...readLetter(body).troubles,
]
