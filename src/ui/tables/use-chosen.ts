import { useCallback, useState } from 'react'

/** Records that are chosen by their ids, over any number of pages: which, a way to choose or leave some, and one to leave all. */
export function useChosen(): [chosen: ReadonlySet<number>, choose: (ids: number[], on: boolean) => void, clear: () => void] {
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set())
  const choose = useCallback(
    (ids: number[], on: boolean) =>
      setChosen((before) => new Set(on ? [...before, ...ids] : [...before].filter((id) => !ids.includes(id)))),
    [],
  )
  return [chosen, choose, useCallback(() => setChosen(new Set()), [])]
}
