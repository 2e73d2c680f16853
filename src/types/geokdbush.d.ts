declare module 'geokdbush' {
  import type KDBush from 'kdbush'
  /** The ids of the nearest points of an index, nearest first: at most so many, within so many kilometres along the sphere. */
  export function around<T = number>(
    index: KDBush,
    longitude: number,
    latitude: number,
    maxResults?: number,
    maxDistance?: number,
    filter?: (id: number) => boolean,
  ): T[]
}
