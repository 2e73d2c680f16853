import { number, object, string } from 'yup'
import { type Addressee, addressBlock } from '@/core/labels/address-block'
import { type LabelSheet, SHEETS, type SheetKey, sheetTrouble } from '@/core/labels/sheet'
import type { LabelsTold } from '@/core/views/round-views'
import { db } from '@/db/connection'
import { fileRow } from '@/db/rounds/round-files'
import { type LetterRowOf, lettersOf } from '@/db/rounds/premises-round-rows'
import { addresseesOf } from '@/db/rounds/label-rows'
import { insertTaken } from '@/db/rounds/stopped'
import { labelsPdf, respelledAmong } from '@/formats/labels-pdf'
import { now } from '@/runtime/clock'
import { region } from '@/runtime/settings'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, Refused } from '@/usecases/team/actor'
import { leftOut } from './round-file'
import { anyRoundFor, calledOf, roundSlug } from './rounds'

/** A number of a form; what is left empty was not said. */
const figure = (wrong: string) =>
  number()
    .transform((value, raw) => (raw === '' ? undefined : value))
    .typeError(wrong)
const measure = () => figure('Give every measure of the sheet as a number of millimetres.').nullable().default(null)
const schema = object({
  sheet: string().required('Choose a sheet.'),
  start: figure('The first label is a number.').integer('Whole labels.').min(1, 'The first label is number 1.').default(1),
  across: figure('How far to move is a number of millimetres.').min(-20, '20 mm at most.').max(20, '20 mm at most.').default(0),
  down: figure('How far to move is a number of millimetres.').min(-20, '20 mm at most.').max(20, '20 mm at most.').default(0),
  pageWidth: measure(),
  pageHeight: measure(),
  columns: measure(),
  rows: measure(),
  width: measure(),
  height: measure(),
  stepAcross: measure(),
  stepDown: measure(),
  left: measure(),
  top: measure(),
})

/** How labels are asked for. Throws Refused naming what is wrong with the sheet. */
function asked(raw: unknown): { sheet: LabelSheet; start: number; offset: { across: number; down: number } } {
  const given = schema.validateSync(raw, { abortEarly: false, stripUnknown: true })
  const own = (value: number | null) => value ?? Number.NaN
  const sheet: LabelSheet = Object.hasOwn(SHEETS, given.sheet)
    ? SHEETS[given.sheet as SheetKey].sheet
    : {
        page: { width: own(given.pageWidth), height: own(given.pageHeight) },
        columns: own(given.columns),
        rows: own(given.rows),
        label: { width: own(given.width), height: own(given.height) },
        pitch: { across: own(given.stepAcross), down: own(given.stepDown) },
        margin: { left: own(given.left), top: own(given.top) },
      }
  if (!Object.hasOwn(SHEETS, given.sheet) && given.sheet !== 'own') throw new Refused('There is no such sheet of labels.')
  const trouble = sheetTrouble(sheet)
  if (trouble) throw new Refused(`${trouble} No labels were made.`)
  if (given.start > sheet.columns * sheet.rows)
    throw new Refused(
      `A sheet has ${sheet.columns * sheet.rows} labels, so the first cannot be number ${given.start}. No labels were made.`,
    )
  return { sheet, start: given.start, offset: { across: given.across, down: given.down } }
}

/** Whose labels may be printed now: everybody the round sends letters to but those who must not be contacted any more. */
async function labelsOf(actor: Actor, id: number) {
  const { round, list } = await anyRoundFor(actor, id)
  await listFor(actor, list.id, 'use')
  if (!round.released_at) throw new Refused('This round is not released, so it has no labels yet.', 'not found')
  const file = await fileRow(db(), id, 'post')
  if (!file || file.withdrawn_at)
    throw new Refused('Somebody who gets a letter in this round was erased on request, so its labels are withdrawn, as its post file is.')
  const at = now()
  const without = await leftOut(round, 'post', at)
  const out = new Set(without)
  const all = round.letters ? (await lettersOf(db(), id)).map(addresseeOf) : await addresseesOf(db(), id)
  const people = all.filter(({ row }) => !out.has(row))
  return { round, list, at, without, people, blocks: people.map((one) => addressBlock(one, region())) }
}

const addresseeOf = ({ number, addressee, ...place }: LetterRowOf): Addressee & { row: number } => ({
  row: number,
  name: addressee,
  organisation: null,
  street: place.street,
  town: place.town,
  postcode: place.postcode,
  country: place.country,
})

/** What address labels of a released round would be: how many, on how many sheets, and what to look at before they are printed. */
export async function tellLabels(actor: Actor, id: number, raw: unknown): Promise<LabelsTold> {
  const { sheet, start } = asked(raw)
  const { people, blocks, without } = await labelsOf(actor, id)
  const each = sheet.columns * sheet.rows
  return {
    labels: people.length,
    sheets: people.length === 0 ? 0 : Math.ceil((start - 1 + people.length) / each),
    respelled: respelledAmong(blocks),
    withoutStreet: people.filter(({ street }) => !street?.trim()).length,
    leftOut: without.length,
  }
}

/**
 * Address labels of a released round as PDF: to whom its post file goes as it may be used now. Who takes them is kept, and without whom. The
 * same question gives the same bytes.
 */
export async function roundLabels(actor: Actor, id: number, raw: unknown): Promise<{ name: string; bytes: Buffer }> {
  const { sheet, start, offset } = asked(raw)
  const { round, list, at, without, blocks } = await labelsOf(actor, id)
  if (blocks.length === 0) throw new Refused('Nobody in this round gets a letter, so there are no labels.')
  const title = `Round ${calledOf(round)} of ${list.name}: address labels`
  const { bytes } = await labelsPdf({ title, labels: blocks, sheet, start, offset, align: false, at: round.released_at as Date })
  await insertTaken(db(), { round: id, channel: 'post', actor: actor.id, at, without })
  return { name: `${roundSlug(round)}-labels.pdf`, bytes }
}

/** A page with the outlines of a sheet, to be held against a sheet of labels before any are printed. */
export async function alignmentPage(actor: Actor, id: number, raw: unknown): Promise<{ name: string; bytes: Buffer }> {
  const { sheet, offset } = asked(raw)
  const { round } = await labelsOf(actor, id)
  const { bytes } = await labelsPdf({
    title: 'Alignment page',
    labels: [],
    sheet,
    start: 1,
    offset,
    align: true,
    at: round.released_at as Date,
  })
  return { name: 'alignment-page.pdf', bytes }
}
