import { log } from '@/runtime/log'
import { sourcesPort } from '@/runtime/settings'
import { USUAL } from './harness'
import { startStandins } from './services'

const port = sourcesPort()
const { server } = await startStandins(port, USUAL)
log.info({ port }, 'the stand-ins for outside sources are ready')
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => server.close(() => process.exit(0)))
