import { type Jobs, STANDS } from '@/db/work/enqueue'

/** The key a job about something stands in the queue by. */
export const jobKey = <J extends keyof Jobs>(job: J, payload: Jobs[J]): string => STANDS[job](payload).key

/** What a job is about, by its key: the number of a batch, an enquiry or a search. */
export const numberOfKey = (key: string): number => Number(key.slice(key.lastIndexOf('-') + 1))
