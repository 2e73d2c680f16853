import { createTransport } from 'nodemailer'
import { outsideOfTransactions } from '@/runtime/inside-transaction'
import { settings } from '@/runtime/settings'
import { ask } from './http-source'

/** An email as it leaves. Its id is decided by whoever sends it, and is the local part of its Message-ID. */
export interface Email {
  id: string
  from: { name: string; address: string }
  to: { name: string; address: string }
  subject: string
  text: string
  html: string
  /** Where its reader stops such emails, by one POST (RFC 8058); null for one to oneself. */
  stop: string | null
}

/** After so many milliseconds without a word a connection is given up. */
export const SEND_TIMEOUT = 20_000

/** What the service said. `unsure`: the connection broke, so that it may have the email or not; where it was never there, nothing `left`. */
export type Sent = { is: 'accepted' } | { is: 'refused' | 'later'; code: string } | { is: 'unsure'; left: boolean }

/** A mail service: takes emails by SMTP (RFC 5321), and says of which it has had. */
export interface MailService {
  send(email: Email): Promise<Sent>
  /** Which of some ids it accepted. Throws SourceTrouble where it does not answer. */
  had(ids: string[]): Promise<Set<string>>
  close(): void
}

/** The enhanced code of a reply (RFC 3463), or its plain one. */
const codeOf = (reply: string, plain: number): string => /\b([45]\.\d{1,3}\.\d{1,3})\b/.exec(reply)?.[1] ?? String(plain)

/** The service that the settings name. */
export function mailService(): MailService {
  const transport = createTransport({
    host: '127.0.0.1',
    port: settings().MAIL_PORT,
    ignoreTLS: true,
    pool: true,
    maxConnections: 5,
    connectionTimeout: 10_000,
    greetingTimeout: 10_000,
    socketTimeout: SEND_TIMEOUT,
    disableFileAccess: true,
    disableUrlAccess: true,
  })
  return {
    async send(email) {
      outsideOfTransactions('an email is sent')
      try {
        await transport.sendMail({
          messageId: `<${email.id}@${email.from.address.split('@')[1]}>`,
          from: email.from,
          to: email.to,
          subject: email.subject,
          text: email.text,
          html: email.html,
          headers: email.stop ? { 'List-Unsubscribe': `<${email.stop}>`, 'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click' } : {},
        })
        return { is: 'accepted' }
      } catch (error) {
        const {
          code,
          command,
          responseCode,
          response = '',
        } = error as {
          code?: string
          command?: string
          responseCode?: number
          response?: string
        }
        // Nothing can be sent to such an address, say the package or the service (RFC 3463, 3.2: bad destination mailbox address syntax).
        if (code === 'EENVELOPE' && (!responseCode || (responseCode === 501 && command === 'RCPT TO')))
          return { is: 'refused', code: '5.1.3' }
        // 421: the service closes the connection; it says nothing of this email.
        if (!responseCode || responseCode === 421 || responseCode < 400) return { is: 'unsure', left: command !== 'CONN' }
        return { is: responseCode < 500 ? 'later' : 'refused', code: codeOf(response, responseCode) }
      }
    },
    had: async (ids) => new Set((await ask<{ had: string[] }>('/mail/had', { ids })).had),
    close: () => transport.close(),
  }
}
