import { describe, expect, test } from 'vitest'
import { openPerson } from '@/usecases/directory/open-person'
import { createList } from '@/usecases/lists/create-list'
import { openList } from '@/usecases/lists/open-list'
import { listIndex } from '@/usecases/lists/list-index'
import { saveEdition } from '@/usecases/lists/save-edition'
import { roundFor } from '@/usecases/rounds/rounds'
import { latestEdition } from '@/db/lists/list-rows'
import { deleteList } from '@/usecases/lists/delete-list'
import { restoreList } from '@/usecases/lists/restore-list'
import { copyList } from '@/usecases/lists/copy-list'
import { requalifyList } from '@/usecases/rounds/requalify-list'
import { startRound } from '@/usecases/rounds/start-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { renameList } from '@/usecases/lists/rename-list'
import { givenClinics, t, start, keepRole, list } from './clinics'

givenClinics()

describe('who may see and do what', () => {
  test('a private list of somebody else is as good as none', async () => {
    const secret = await createList(t.marek, 'Private', false)
    await expect(openList(t.ines, secret)).rejects.toThrow(/no such list/)
    await expect(copyList(t.ines, secret)).rejects.toThrow(/no such list/)
    await expect(startRound(t.ines, secret)).rejects.toThrow(/no such list/)
    await expect(requalifyList(t.ines, secret, { account: 'listed', tab: 'left' })).rejects.toThrow(/no such list/)
    expect((await listIndex(t.ines)).map((l) => l.name)).not.toContain('Private')
    const hidden = await startRound(t.marek, secret)
    await expect(roundFor(t.ines, hidden)).rejects.toThrow(/no such list/)
    await expect(roundFile(t.ines, hidden, 'email')).rejects.toThrow(/no such list/)
  })

  test('another’s list can be copied, never renamed or deleted', async () => {
    const copy = await copyList(t.tam, list)
    expect(await openList(t.tam, copy)).toMatchObject({ mine: true, shared: false, name: 'Clinics, copy' })
    await expect(deleteList(t.tam, list)).rejects.toThrow(/Only its owner/)
    await expect(renameList(t.tam, list, 'Ours')).rejects.toThrow(/Only its owner/)
    await deleteList(t.tam, copy)
    await expect(openList(t.tam, copy)).rejects.toThrow(/no such list/)
    await expect(restoreList(t.ines, copy)).rejects.toThrow(/no deleted list of yours/)
    expect(await restoreList(t.tam, copy)).toBe('Clinics, copy')
    expect((await openList(t.tam, copy)).name).toBe('Clinics, copy')
  })

  test('forged ids are not found', async () => {
    for (const id of [0, -1, 99_999_999, Number.NaN]) {
      await expect(openList(t.ines, id)).rejects.toThrow(/no such list/)
      await expect(roundFor(t.ines, id)).rejects.toThrow(/no such round/)
      await expect(openPerson(t.ines, id)).rejects.toThrow(/no such person/)
    }
  })

  test('the second to save a list is told, and nothing of theirs is written', async () => {
    const id = await createList(t.ines, 'Both', true)
    await saveEdition(t.tam, id, 1, [start, keepRole])
    expect(await saveEdition(t.ines, id, 1, [start])).toMatchObject({
      theirs: { edition: 2, by: 'Tam Reyes', lines: [start, keepRole], basis: [{ verb: 'start' }] },
    })
    expect((await latestEdition(id)).number).toBe(2)
  })

  test('by me becomes the name of the one who saved the line', async () => {
    const id = await createList(t.ines, 'Mine', true)
    await saveEdition(t.tam, id, 1, [
      start,
      {
        id: 'm',
        verb: 'keep',
        off: false,
        unknownAsYes: false,
        criterion: { kind: 'contacted', how: 'never', by: { id: 'me', name: 'me' } },
      },
    ])
    expect((await latestEdition(id)).lines[1]).toMatchObject({ criterion: { by: { id: t.tam.id, name: 'Tam Reyes' } } })
  })
})
