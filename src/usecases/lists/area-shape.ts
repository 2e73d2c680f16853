import { type AreaShape, validShape, WrongShape } from '@/core/areas/shape'
import { Refused } from '@/usecases/team/actor'

/** A shape that can be kept. Throws Refused saying what is wrong with it. */
export function checkedShape(raw: unknown): AreaShape {
  try {
    return validShape(raw)
  } catch (error) {
    if (error instanceof WrongShape) throw new Refused(error.message)
    throw error
  }
}
