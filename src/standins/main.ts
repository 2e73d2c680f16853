import { log } from '@/runtime/log'
import { settings } from '@/runtime/settings'
import { USUAL } from './harness'
import { startStandins } from './services'

const { SOURCES_PORT } = settings()
const { server } = await startStandins(SOURCES_PORT, USUAL)
log.info({ port: SOURCES_PORT }, 'the stand-ins for outside sources are ready')
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => server.close(() => process.exit(0)))
