import { runMail, setSettleAfter } from '@/usecases/rounds/run-mail'

/** Sends the emails of a run in a process of its own, for tests that kill it. */
setSettleAfter(300)
await runMail(Number(process.argv[2]))
process.exit(0)
