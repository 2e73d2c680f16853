import { log } from '@/runtime/log'
import { mailPort, sourcesPort } from '@/runtime/settings'
import { USUAL } from './harness'
import { startMail, USUAL_MAIL } from './mail'
import { startStandins } from './services'

const port = sourcesPort()
const mail = await startMail(mailPort(), USUAL_MAIL, process.env.MAIL_LOG)
const { server } = await startStandins(port, USUAL, mail.routes)
log.info({ port, mail: mail.port }, 'the stand-ins for outside services are ready')
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, async () => {
    await mail.close()
    server.close(() => process.exit(0))
  })
