import { beforeAll, expect, test } from 'vitest'
import { archiveList } from '@/usecases/lists/archive-list'
import { createList } from '@/usecases/lists/create-list'
import { deleteList } from '@/usecases/lists/delete-list'
import { listInHand } from '@/usecases/lists/list-in-hand'
import { restoreList } from '@/usecases/lists/restore-list'
import { takeInHand } from '@/usecases/lists/take-in-hand'
import { freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
})

test.each([
  ['archived', (id: number) => archiveList(t.ines, id, true), (id: number) => archiveList(t.ines, id, false)],
  ['deleted', (id: number) => deleteList(t.ines, id), (id: number) => restoreList(t.ines, id)],
] as const)('a list that is %s is in nobody’s hand, and in theirs again when that is undone', async (done, act, undo) => {
  const id = await createList(t.ines, `To be ${done}`, true)
  const other = await createList(t.ines, `Beside one ${done}`, true)
  for (const who of [t.ines, t.tam, t.marek]) await takeInHand(who, id)
  await act(id)
  for (const who of [t.ines, t.tam, t.marek]) expect(await listInHand(who)).toBeNull()
  await expect(takeInHand(t.tam, id)).rejects.toThrow(done === 'archived' ? /This list is archived/ : /no such list/i)
  // Whoever took another in the meantime keeps that; whoever put it down holds none.
  await takeInHand(t.tam, other)
  await takeInHand(t.marek, null)
  await undo(id)
  expect((await listInHand(t.ines))?.id).toBe(id)
  expect((await listInHand(t.tam))?.id).toBe(other)
  expect(await listInHand(t.marek)).toBeNull()
})
