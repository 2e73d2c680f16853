import { parse } from 'csv-parse/sync'
import { beforeEach, describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { actOnChange } from '@/usecases/changes/act-on-change'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { archiveKind, changeKinds, saveKind } from '@/usecases/changes/change-kinds'
import { changesOf } from '@/usecases/changes/changes-of'
import { decideChange } from '@/usecases/changes/decide-change'
import { reportByHand } from '@/usecases/changes/report-by-hand'
import { erasePerson } from '@/usecases/directory/erase-person'
import { receiveFile } from '@/usecases/intake/receive-file'
import { runBatch } from '@/usecases/intake/run-batch'
import { startBatch } from '@/usecases/intake/start-batch'
import { batchOf } from '@/usecases/intake/batch-for'
import { mergePeople } from '@/usecases/directory/merge-people'
import { copyList } from '@/usecases/lists/copy-list'
import { createList } from '@/usecases/lists/create-list'
import { listAccountFor } from '@/usecases/lists/list-account'
import { openList } from '@/usecases/lists/open-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { recordsCsv } from '@/usecases/directory/export-records'
import { setOpeners } from '@/usecases/lists/set-openers'
import { closeRound } from '@/usecases/rounds/close-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { releaseRound } from '@/usecases/rounds/release-round'
import { screenRound } from '@/usecases/rounds/screen-round'
import { startRound } from '@/usecases/rounds/start-round'
import { broughtIn } from '../../support/database'
import { givenRounds, builtRound, releasedWhile, start, t } from './released-while'

givenRounds()

const TODAY = '2026-06-15'
const none = { moved: null, after: null, successor: null, link: null, stated: true }
const kindOf = async (name: string) => (await changeKinds(t.ines)).find((kind) => kind.name === name)?.id as number
/** Something that happened to somebody, as a colleague reports it. */
async function happened(person: number, kind: string, text: string, day = '2026-06-10', of: 'person' | 'organisation' = 'person') {
  await reportByHand(t.tam, { ...none, of, record: person, kind: await kindOf(kind), text, day })
  await bringChanges()
  return (await t.app('change').orderBy('id', 'desc').first('id')).id as number
}
const rows = async (round: number) => parse((await roundFile(t.ines, round, 'email')).bytes, { columns: true }) as Record<string, string>[]
const openersIn = async (round: number) => (await rows(round)).map((row) => row.Opener)

beforeEach(() => pinClock(new Date(`${TODAY}T09:00:00Z`)))

describe('openers of a list', () => {
  test('stand on its page, in the round and in its files, from the latest change of a kind the list takes them from', async () => {
    const { round, list, ids } = await builtRound()
    await happened(ids[0], 'Storm damage', 'the roof of the barn', '2026-06-09')
    await happened(ids[0], 'Came to an event', 'open day', '2026-06-12')
    await happened(ids[1], 'Wrote or spoke in public', 'a talk', '2026-06-12')
    const [event, storm] = [await kindOf('Came to an event'), await kindOf('Storm damage')]
    await setOpeners(t.ines, list, [
      { kind: event, own: '' },
      { kind: storm, own: '{given}, we hear of your roof.' },
    ])
    expect((await openList(t.ines, list)).openers).toEqual([
      { kind: event, own: null },
      { kind: storm, own: '{given}, we hear of your roof.' },
    ])
    const lines = (await openList(t.ines, list)).lines
    const page = await listAccountFor(t.ines, { lines, view: { tab: 'on' }, list, openers: true })
    const shown = new Map(page.page.records.map(({ id, person }) => [id, person?.opener]))
    expect(ids.map((id) => shown.get(id))).toEqual(['It was good to meet you on 12 June.', undefined, undefined])
    // The list's own file has them where its table shows them.
    const file = await recordsCsv(t.ines, { lines, view: { tab: 'on' }, list, openers: true })
    expect(file.heading).toContain('Opener')
    let text = ''
    for await (const piece of file.pieces) text += piece
    const written = parse(text, { bom: true, columns: true }) as Record<string, string>[]
    expect(ids.map((id) => written.find((row) => row['Record number'] === String(id))?.Opener)).toEqual([
      'It was good to meet you on 12 June.',
      '',
      '',
    ])
    expect((await recordsCsv(t.ines, { lines, view: { tab: 'on' }, list })).heading).not.toContain('Opener')
    const building = await screenRound(t.ines, round, { tab: 'clear' })
    expect(building.page.people.find(({ id }) => id === ids[0])?.opener).toBe('It was good to meet you on 12 June.')
    await releaseRound(t.ines, round)
    expect(await openersIn(round)).toEqual(['It was good to meet you on 12 June.', '', ''])
    const frozen = await screenRound(t.ines, round, { tab: 'clear' })
    expect(frozen.page.people.map(({ opener }) => opener)).toEqual(['It was good to meet you on 12 June.', undefined, undefined])
    // The next round has the next change, and the one after that none: nobody gets the same opener twice, on whatever list.
    await closeRound(t.ines, round)
    const copy = await copyList(t.ines, list)
    const second = await startRound(t.ines, copy)
    await releaseRound(t.ines, second)
    expect((await openersIn(second))[0]).toMatch(/, we hear of your roof\.$/)
    await closeRound(t.ines, second)
    const third = await startRound(t.ines, list)
    await releaseRound(t.ines, third)
    expect(await openersIn(third)).toEqual(['', '', ''])
  })

  test('that merged records got are not got again', async () => {
    const { round, list, ids } = await builtRound()
    const change = await happened(ids[0], 'Came to an event', 'summer fair')
    await setOpeners(t.ines, list, [{ kind: await kindOf('Came to an event'), own: null }])
    await releaseRound(t.ines, round)
    expect((await openersIn(round))[0]).toBe('It was good to meet you on 10 June.')
    await closeRound(t.ines, round)
    await mergePeople(t.ines, ids[1], ids[0])
    await bringChanges()
    const person = (await t.app('change').where({ id: change }).first('person_id', 'gone_at')) as {
      person_id: number
      gone_at: Date | null
    }
    expect([person.person_id, person.gone_at]).toEqual([ids[1], null])
    const next = await startRound(t.ines, list)
    await releaseRound(t.ines, next)
    expect((await openersIn(next)).filter(Boolean)).toEqual([])
  })

  test('of an organisation go to its people; a list without openers has no column for them', async () => {
    const { round, list, ids } = await builtRound()
    const { organisation_id: house } = await t.app('person').where({ id: ids[0] }).first('organisation_id')
    await happened(house, 'Taking people on', 'three surveyors', '2026-06-11', 'organisation')
    await setOpeners(t.ines, list, [{ kind: await kindOf('Taking people on'), own: '{organisation} is growing.' }])
    const plain = await createList(t.ines, 'Without openers', true, (await openList(t.ines, list)).lines)
    await releaseRound(t.ines, round)
    expect(new Set(await openersIn(round))).toEqual(new Set([`${(await rows(round))[0].Organisation} is growing.`]))
    const other = await startRound(t.ines, plain)
    await closeRound(t.ines, round)
    await releaseRound(t.ines, other)
    expect(Object.keys((await rows(other))[0] ?? {})).not.toContain('Opener')
  })

  test('say of a building that it is theirs to its owner alone, not to whoever else is there', async () => {
    const { round, list, ids } = await builtRound()
    const given = await t.app('person').where({ id: ids[0] }).first('outside_id', 'name')
    await broughtIn(
      t.ines,
      'owner.csv',
      `Id,Name,Address,Town,Postcode\n${given.outside_id},${given.name},4 Weir Street,Thornmouth,PW1 4AA\n`,
    )
    const tenant = await t.app('person').where({ id: ids[1] }).first('outside_id', 'name')
    await broughtIn(
      t.ines,
      'tenant.csv',
      `Id,Name,Address,Town,Postcode\n${tenant.outside_id},${tenant.name},4 Weir Street,Thornmouth,PW1 4AA\n`,
    )
    const batch = await receiveFile(t.ines, {
      name: 'houses.csv',
      kind: 'premises',
      bytes: Buffer.from(
        `Id,Building,Type,Street,Town,Postcode,Owner,Owner type,Owner: street,Owner: town,Owner: postcode\nQ1,Weir House,house,4 Weir Street,Thornmouth,PW1 4AA,${given.name},individual,4 Weir Street,Thornmouth,PW1 4AA\n`,
      ),
    })
    await startBatch(t.ines, batch, await batchOf(batch), { again: true })
    await runBatch(batch)
    const house = (await t.app('premises').where({ name: 'Weir House' }).first('id')).id
    for (const kind of ['Premises changed hands', 'Permit published'])
      await reportByHand(t.tam, { ...none, of: 'premises', record: house, kind: await kindOf(kind), text: kind, day: '2026-06-10' })
    await bringChanges()
    await setOpeners(t.ines, list, [{ kind: await kindOf('Premises changed hands'), own: null }])
    const of = async () => {
      const { page } = await screenRound(t.ines, round, { tab: 'clear' })
      return ids.map((id) => page.people.find((p) => p.id === id)?.opener)
    }
    expect(await of()).toEqual(['The building has been yours on 10 June.', undefined, undefined])
    await setOpeners(t.ines, list, [{ kind: await kindOf('Permit published'), own: null }])
    expect(await of()).toEqual(Array(2).fill('A permit for your building was published on 10 June.').concat([undefined]))
  })

  test('go with a list that asks for what is new since its own last round', async () => {
    const { round, list, ids } = await builtRound()
    await happened(ids[0], 'Came to an event', 'before the round')
    const { lines } = await openList(t.ines, list)
    const since = { id: list, name: 'this one' }
    const criterion = { kind: 'changed', asks: [], kinds: [], days: null, since, by: 'learned', least: 1, state: 'any' }
    const asked = [...lines, { id: 'since', verb: 'keep', off: false, unknownAsYes: false, criterion }]
    await saveEdition(t.ines, list, 1, asked)
    const on = async () => (await listAccountFor(t.ines, { lines: asked, view: { tab: 'on' } })).page.records.map(({ id }) => id)
    expect(await on()).toEqual([ids[0]])
    pinClock(new Date(`${TODAY}T10:00:00Z`))
    await releaseRound(t.ines, round)
    pinClock(new Date(`${TODAY}T11:00:00Z`))
    expect(await on()).toEqual([])
    await happened(ids[1], 'Came to an event', 'after the round')
    expect(await on()).toEqual([ids[1]])
  })

  test('of a list that is private to somebody else are told to nobody, by whatever lines they are asked for', async () => {
    const { list, ids } = await builtRound()
    await happened(ids[0], 'Came to an event', 'private view')
    const { lines } = await openList(t.ines, list)
    const own = await createList(t.ines, 'Of Ines alone', false, lines)
    await setOpeners(t.ines, own, [{ kind: await kindOf('Came to an event'), own: 'A secret sentence.' }])
    const asked = { lines, view: { tab: 'on' as const }, list: own, openers: true }
    expect(JSON.stringify(await listAccountFor(t.ines, asked))).toContain('A secret sentence.')
    await expect(listAccountFor(t.tam, asked)).rejects.toThrow(/private to somebody else/)
  })

  test('rest on what the record says on the day of release', async () => {
    const { round, list, ids } = await builtRound()
    const known = await t.app('person').where({ id: ids[0] }).first('outside_id', 'name')
    await broughtIn(t.ines, 'roles.csv', `Id,Name,Role\n${known.outside_id},${known.name},Caretaker\n`)
    pinClock(new Date('2026-06-16T09:00:00Z'))
    await reportByHand(t.tam, {
      ...none,
      of: 'person',
      record: ids[0],
      kind: null,
      moved: 'role',
      after: 'Head of roofs',
      text: null,
      day: '2026-06-16',
    })
    await bringChanges()
    await setOpeners(t.ines, list, [{ kind: await kindOf('Another role'), own: 'You became {after}.' }])
    // Only somebody says so: the record says otherwise.
    expect((await screenRound(t.ines, round, { tab: 'clear' })).page.people.map(({ opener }) => opener).filter(Boolean)).toEqual([])
    const [said] = (await changesOf(t.ines, 'person', ids[0])).rows
    await decideChange(t.ines, said.id, 'confirm')
    await bringChanges()
    await releaseRound(t.ines, round)
    expect((await openersIn(round))[0]).toBe('You became Head of roofs.')
  })

  test('which a colleague takes over while the round is being released are not in it', async () => {
    const { round, list, ids } = await builtRound()
    const change = await happened(ids[0], 'Came to an event', 'harvest')
    await setOpeners(t.ines, list, [{ kind: await kindOf('Came to an event'), own: null }])
    const said = await releasedWhile(round, () => actOnChange(t.tam, change, 'take'))
    expect(said.status).toBe('fulfilled')
    expect(await openersIn(round)).toEqual(['', '', ''])
    expect(await t.app('round_opener').where({ round_id: round })).toEqual([])
  })

  test('that were changed after somebody looked at the round stop its release; while it is being released they wait', async () => {
    const { round, list, ids } = await builtRound()
    await happened(ids[0], 'Came to an event', 'midsummer')
    const { basis, figures } = await screenRound(t.ines, round, { tab: 'clear' })
    const wishes = [{ kind: await kindOf('Came to an event'), own: null }]
    await setOpeners(t.ines, list, wishes)
    await expect(releaseRound(t.ines, round, { basis: basis as string, clear: figures.clear })).rejects.toThrow(/Nothing was released/)
    await setOpeners(t.ines, list, [])
    let later: Promise<void> | undefined
    const said = await releasedWhile(round, async () => {
      later = setOpeners(t.ines, list, wishes)
    })
    expect(said.status).toBe('fulfilled')
    await later
    expect(Object.keys((await rows(round))[0])).not.toContain('Opener')
    expect((await openList(t.ines, list)).openers).toHaveLength(1)
  })

  test('are erased with the person; the file that held one is withdrawn', async () => {
    const { round, list, ids } = await builtRound()
    await happened(ids[0], 'Came to an event', 'autumn fair')
    await setOpeners(t.ines, list, [{ kind: await kindOf('Came to an event'), own: '{given}, thank you for coming.' }])
    await releaseRound(t.ines, round)
    expect((await t.app('round_opener').where({ round_id: round }).first('text')).text).toMatch(/, thank you for coming\.$/)
    await erasePerson({ ...t.ines, post: 'manager' }, ids[0])
    expect((await t.app('round_opener').where({ round_id: round }).first('text')).text).toBeNull()
    await expect(roundFile(t.ines, round, 'email')).rejects.toThrow(/erased on request/)
  })
})

describe('choosing openers is refused', () => {
  test('where a kind has no sentence, names an unknown word, or is not there; what stood stays', async () => {
    const { list } = await builtRound()
    const event = await kindOf('Came to an event')
    await setOpeners(t.ines, list, [{ kind: event, own: null }])
    const says = (wishes: unknown) => expect(setOpeners(t.ines, list, wishes)).rejects
    await says([{ kind: await kindOf('Replied'), own: '' }]).toThrow(/“Replied” has no first sentence/)
    await says([{ kind: event, own: 'Dear {frist}' }]).toThrow(/“\{frist\}” is not known/)
    await says([{ kind: event, own: 'Dear {given' }]).toThrow(/brace/)
    await says([{ kind: event, own: 'Dear given}' }]).toThrow(/brace/)
    await says([{ kind: 999_999, own: 'Hello' }]).toThrow(/does not exist/)
    await says([
      { kind: event, own: null },
      { kind: event, own: 'Hello' },
    ]).toThrow(/chosen twice/)
    await says([{ kind: event, own: 'x'.repeat(401) }]).toThrow(/400 characters/)
    await says('all of them').toThrow()
    expect((await openList(t.ines, list)).openers).toEqual([{ kind: event, own: null }])
    const houses = await createList(t.ines, 'Houses', true, [{ ...start, subject: 'premises' } as never])
    await expect(setOpeners(t.ines, houses, [])).rejects.toThrow(/Only people get openers/)
  })

  test('a kind that is taken out of use gives no more', async () => {
    const { round, list, ids } = await builtRound()
    await saveKind(t.ines, null, { name: 'Won a prize', asks: 'opening', freshDays: 30, opener: 'Well done {when}.' })
    await happened(ids[0], 'Won a prize', 'best roof')
    await setOpeners(t.ines, list, [{ kind: await kindOf('Won a prize'), own: null }])
    expect((await screenRound(t.ines, round, { tab: 'clear' })).page.people[0].opener).toBe('Well done on 10 June.')
    await archiveKind(t.ines, await kindOf('Won a prize'))
    expect((await screenRound(t.ines, round, { tab: 'clear' })).page.people[0].opener).toBeUndefined()
  })
})
