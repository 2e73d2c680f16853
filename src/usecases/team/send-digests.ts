import { localDate, wallTime } from '@/core/calendar/local-day'
import { digestOf } from '@/core/text/digest'
import { db } from '@/db/connection'
import { decideDigest, digestsDue, settleDigest } from '@/db/team/digest-rows'
import { escaped, noticeHtml } from '@/formats/letter-html'
import { now } from '@/runtime/clock'
import { log } from '@/runtime/log'
import { ourUrl, settings } from '@/runtime/settings'
import { mailService } from '@/sources/mail-service'
import { todayPage } from './today'

/** When the day begins for whoever wants a digest (our own figure, no source). */
const MORNING = '07:00'

/**
 * Sends everybody who wants it what is their move, once a day at most, from seven in the morning of the team’s zone on. Whoever has nothing
 * to do gets nothing. That somebody gets one is decided before it leaves; where the service surely has not taken it, it is tried again.
 * Gives how many were sent.
 */
export async function sendDigests(): Promise<number> {
  const { ARCH_ZONE, ARCH_MAIL_FROM } = settings()
  const day = localDate(now().getTime(), ARCH_ZONE)
  if (now().getTime() < wallTime(day, MORNING, ARCH_ZONE)) return 0
  const due = await digestsDue(db(), day)
  if (due.length === 0) return 0
  const service = mailService()
  let sent = 0
  try {
    for (const { email, ...colleague } of due) {
      const page = await todayPage(colleague)
      const [digest, marked] = [digestOf(page, day, ourUrl(), (text) => text), digestOf(page, day, ourUrl(), escaped)]
      if (!digest || !marked) continue
      const id = await decideDigest(db(), colleague.id, day)
      if (id === null) continue
      const said = (body: string) =>
        `Good morning ${colleague.name.split(' ')[0]},\n\n${body}\n\nTo get these no more, untick *By email each morning* on Today: ${ourUrl()}/today\n`
      const came = await service.send({
        id,
        from: { name: 'Arch Ledger', address: ARCH_MAIL_FROM },
        to: { name: colleague.name, address: email },
        subject: digest.subject,
        text: said(digest.body),
        html: noticeHtml(said(marked.body)),
        stop: null,
      })
      // One that the service may have is not sent twice; one it surely has not is tried at the next quarter of an hour.
      await settleDigest(db(), colleague.id, day, came.is !== 'later' && !(came.is === 'unsure' && !came.left))
      if (came.is === 'accepted') sent++
      else log.warn({ user: colleague.id, came: came.is }, 'a digest was not taken')
    }
  } finally {
    service.close()
  }
  return sent
}
