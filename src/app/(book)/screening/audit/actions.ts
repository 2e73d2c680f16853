'use server'

import { revalidatePath } from 'next/cache'
import { act } from '@/app/requests/answer'
import { ref, word } from '@/app/requests/asked'
import { CHANNELS, type Channel } from '@/core/records/channels'
import { carryBack, carryOptOut } from '@/usecases/screening/carry-opt-out'

/** An opt-out was carried to where the file of a round had gone. */
export async function carried(round: number, person: number, channel: Channel) {
  const result = await act([ref(), ref(), word(CHANNELS)], [round, person, channel], carryOptOut)
  revalidatePath('/screening/audit')
  return result
}

/** It was not: the opt-out is due again. */
export async function carriedBack(round: number, person: number, channel: Channel) {
  const result = await act([ref(), ref(), word(CHANNELS)], [round, person, channel], carryBack)
  revalidatePath('/screening/audit')
  return result
}
