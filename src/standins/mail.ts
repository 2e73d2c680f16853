import { appendFileSync, existsSync, readFileSync } from 'node:fs'
import { SMTPServer, type SMTPServerDataStream } from 'smtp-server'
import PostalMime from 'postal-mime'
import { Random } from '@/core/checks/random'
import { log } from '@/runtime/log'
import { BadRequest, type Route } from './harness'

/** How the stand-in for a mail service behaves. */
export interface MailManners {
  /** Milliseconds until it has an email, from and to. */
  latency: [number, number]
  /** What it says to an address: nothing where it takes the email, or a reply with its code. `seen`: how often it was asked before. */
  reply: (to: string, seen: number) => { code: number; said: string } | null
  /** What it says once it has the whole email, where it does not keep it after all; nothing where it does. */
  after?: (to: string, seen: number) => { code: number; said: string } | null
  /** After so many emails it cuts a connection, having taken the email but not having said so; 0 for never. */
  cutsAfter: number
}

/** One address in some fifty does not exist, and one in some thirty is busy at first (made up). */
export const USUAL_MAIL: MailManners = {
  latency: [5, 60],
  reply: (to, seen) => {
    const kind = [...to].reduce((sum, letter) => (sum * 31 + (letter.codePointAt(0) as number)) % 1009, 7)
    if (kind % 53 === 0) return { code: 550, said: '5.1.1 no such mailbox' }
    if (kind % 31 === 0 && seen === 0) return { code: 451, said: '4.7.1 busy, try again later' }
    return null
  },
  cutsAfter: 0,
}
export const CALM_MAIL: MailManners = { latency: [0, 0], reply: () => null, cutsAfter: 0 }

/** An email that the stand-in accepted. */
export interface Taken {
  id: string
  to: string
  subject: string
  at: string
  raw: string
}

/**
 * A mail service on 127.0.0.1: SMTP, and a route that says which emails it has had. With `file` it keeps them there, a line each, and
 * knows them when it starts again.
 */
export async function startMail(
  port: number,
  manners: MailManners,
  file?: string,
): Promise<{ taken: Taken[]; routes: Record<string, Route>; port: number; close: () => Promise<void> }> {
  const random = new Random(11)
  const taken: Taken[] = []
  if (file && existsSync(file))
    for (const line of readFileSync(file, 'utf8').split('\n')) if (line.endsWith('}')) taken.push(JSON.parse(line))
  const seen = new Map<string, number>()
  const taking = new Set<string>()
  let sinceCut = 0
  const take = async (stream: SMTPServerDataStream, to: string): Promise<'cut' | { code: number; said: string } | null> => {
    const parts: Buffer[] = []
    for await (const part of stream) parts.push(part as Buffer)
    const bytes = Buffer.concat(parts)
    const refusal = manners.after?.(to, (seen.get(to) ?? 1) - 1)
    if (refusal) return refusal
    const { messageId, subject } = await PostalMime.parse(bytes)
    const id = /^<([^@>]+)@/.exec(messageId ?? '')?.[1] ?? ''
    const [least, most] = manners.latency
    // All of it is there, so it will be taken, whoever hangs up meanwhile.
    taking.add(id)
    if (most > 0) await new Promise((resolve) => setTimeout(resolve, least + random.below(most - least + 1)))
    const own = { id, to, subject: subject ?? '', at: new Date().toISOString(), raw: bytes.toString('utf8') }
    taken.push(own)
    if (file) appendFileSync(file, `${JSON.stringify(own)}\n`)
    sinceCut++
    if (manners.cutsAfter === 0 || sinceCut < manners.cutsAfter) return null
    sinceCut = 0
    return 'cut'
  }
  const refused = ({ code, said }: { code: number; said: string }) => Object.assign(new Error(said), { responseCode: code })
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    disableReverseLookup: true,
    logger: false,
    closeTimeout: 500,
    onRcptTo({ address }, _session, done) {
      const reply = manners.reply(address, seen.get(address) ?? 0)
      seen.set(address, (seen.get(address) ?? 0) + 1)
      done(reply && refused(reply))
    },
    onData(stream, session, done) {
      take(stream, session.envelope.rcptTo[0]?.address ?? '').then(
        (then) => (then === 'cut' ? cut(session.id) : done(then && refused(then))),
        (error) => done(error),
      )
    },
  })
  const cut = (id: string) => {
    for (const connection of (server as unknown as { connections: Set<{ id: string; _socket: { destroy(): void } }> }).connections)
      if (connection.id === id) connection._socket.destroy()
  }
  server.on('error', (error) => log.warn({ message: error.message }, 'the stand-in for a mail service'))
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', resolve)
  })
  return {
    taken,
    port: (server.server.address() as { port: number }).port,
    routes: {
      '/mail/had': ({ ids }: { ids?: unknown }) => {
        if (!Array.isArray(ids)) throw new BadRequest('which emails')
        const had = new Set(taken.map(({ id }) => id))
        return { had: ids.filter((id) => had.has(id) || taking.has(id)) }
      },
    },
    close: () => new Promise((resolve) => server.close(() => resolve())),
  }
}
