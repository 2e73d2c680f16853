import { afterAll, beforeAll } from 'vitest'
import { settings } from '@/runtime/settings'
import { setWaits } from '@/sources/http-source'
import { CALM } from '@/standins/harness'
import { startStandins } from '@/standins/services'
import { beginEnquiry } from '@/usecases/sources/begin-enquiry'
import { openEnquiry } from '@/usecases/sources/open-enquiry'
import { runEnquiry } from '@/usecases/sources/run-enquiry'
import { cells, HEADER, pellowCounty } from '../../../demo/county'
import { broughtIn, freePort, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

export let t: TestDatabase
export let standins: Awaited<ReturnType<typeof startStandins>>
export const { people } = pellowCounty()
export const quoted = (row: readonly string[]) => row.map((cell) => `"${cell}"`).join(',')

/** The first 700 people of the county, and the sources that can be asked about them. */
export function givenCounty(): void {
  beforeAll(async () => {
    process.env.SOURCES_PORT = String(await freePort())
    t = await freshDatabase()
    setWaits([1, 2, 4])
    standins = await startStandins(settings().SOURCES_PORT, CALM)
    await broughtIn(t.ines, 'county.csv', [HEADER.join(','), ...people.slice(0, 700).map((p) => quoted(cells(p)))].join('\n'), {
      kind: 'people',
      byKeysAlone: true,
    })
    await startEngine(t)
  }, 60_000)
  afterAll(() => new Promise((resolve) => standins.server.close(resolve)))
}

/** Starts the sources anew at their port, answering as they are told to. */
export async function startAgain(how: Parameters<typeof startStandins>[1], waits: number[]): Promise<void> {
  const closed = new Promise((resolve) => standins.server.close(resolve))
  standins.server.closeAllConnections()
  await closed
  standins = await startStandins(settings().SOURCES_PORT, how)
  setWaits(waits)
}
export const calmAgain = () => startAgain(CALM, [1, 2, 4])

export const view = (id: number) => openEnquiry(t.ines, id)
export const began = async (id: number, cap: number | null = null) => {
  await beginEnquiry(t.ines, id, cap)
  await runEnquiry(id)
  return view(id)
}
