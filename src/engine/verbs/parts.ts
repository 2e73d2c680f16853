import { type InferType, mixed, number, object, string } from 'yup'
import type { AreaShape } from '@/core/areas/shape'
import type { Moment } from '@/core/criteria/kind'
import type { Line } from '@/core/lists/line'
import type { NamedLists } from '@/core/lists/named'
import type { ListView } from '@/core/lists/view'
import type { ScreeningMoment } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value)
const isArrayOf = (value: unknown, one: (item: unknown) => boolean): boolean => Array.isArray(value) && value.every(one)
const isNumber = (value: unknown): boolean => Number.isFinite(value)

/** Lines as they were checked before they came here: each with its id, its verb and whether it is switched off. */
const isLines = (value: unknown): value is Line[] =>
  isArrayOf(value, (line) => isObject(line) && typeof line.id === 'string' && typeof line.verb === 'string') && (value as Line[]).length > 0
const isNamed = (value: unknown): value is NamedLists => isObject(value) && Object.values(value).every(isLines)
const isMoment = (value: unknown): value is Moment => isObject(value) && isNumber(value.asOf) && typeof value.zone === 'string'
const isScreeningMoment = (value: unknown): value is ScreeningMoment =>
  isMoment(value) &&
  isArrayOf((value as ScreeningMoment).exceptRounds, isNumber) &&
  isArrayOf((value as ScreeningMoment).letThrough, (l) => isObject(l) && isNumber(l.person) && typeof l.channel === 'string') &&
  ((value as ScreeningMoment).allowances === undefined || isAllowances((value as ScreeningMoment).allowances)) &&
  ((value as ScreeningMoment).seats === undefined || isSeats((value as ScreeningMoment).seats))
const isAllowances = (value: unknown): boolean =>
  isObject(value) &&
  Object.values(value).every((own) => isObject(own) && isNumber(own.used) && isNumber(own.refunded) && isNumber(own.toCome))
const isSeats = (value: unknown): boolean =>
  isObject(value) &&
  typeof value.print === 'string' &&
  isArrayOf(value.of, (own) => isObject(own) && isNumber(own.person) && typeof own.channel === 'string' && isNumber(own.address))

/** Names the screen that asks: only its newest request is worth an answer. */
export const screenName = { screen: string().max(400).optional() }

/** A page of lines with the lines of every list that they name. Sets of picked people never change and are looked up. */
export const pageOfLines = { lines: mixed(isLines).required(), named: mixed(isNamed).required() }
export interface PageOfLines {
  lines: Line[]
  named: NamedLists
}
/** The schema of a page of lines. */
export const wholePage = () => object(pageOfLines)

/** The schema of a moment: when, and in which zone. */
export const moment = () => mixed(isMoment).required()
/** The schema of a moment for screening, with everything that rules are given. */
export const screeningMoment = () => mixed(isScreeningMoment).required()
/** The schema of the rules of a policy. Their settings are checked where they are saved. */
export const rules = () =>
  mixed((value): value is Rule[] =>
    isArrayOf(value, (rule) => isObject(rule) && typeof rule.kind === 'string' && typeof rule.id === 'string'),
  ).required()

/** A page of records to go with the figures. */
export const page = () => object({ offset: number().integer().min(0).required(), limit: number().integer().min(0).required() }).required()
export type PageWanted = InferType<ReturnType<typeof page>>

/** A tab or figure of a list. */
export const view = () =>
  mixed(
    (value): value is ListView =>
      isObject(value) &&
      (value.tab === 'moved'
        ? typeof value.line === 'string' && ['out', 'unknown', 'in', 'stayedUnknown'].includes(String(value.column))
        : ['on', 'never', 'new', 'out', 'unknown'].includes(String(value.tab))),
  ).required()

export type Place = { shape: AreaShape } | { premises: number[] }
/** Whether a value has the form of an area. */
export const isShape = (value: unknown): value is AreaShape =>
  isObject(value) && Array.isArray(value.polygons) && Array.isArray(value.circles) && Array.isArray(value.streets)
/** Only those that lie in a shape, or at some premises. */
export const place = () =>
  mixed((value): value is Place => isObject(value) && ('shape' in value ? isShape(value.shape) : isArrayOf(value.premises, isNumber)))
    .nullable()
    .optional()

/** Only those with one value of a facet; null is of those that have none. */
export interface Having {
  key: string
  label: string | null
}
/** The schema of one value of a column, which may be left out. */
export const oneValue = () =>
  mixed(
    (value): value is Having =>
      isObject(value) && typeof value.key === 'string' && (value.label === null || typeof value.label === 'string'),
  )
    .nullable()
    .optional()

/** A page of records by their ids, and how many there are in all. */
export interface Found {
  total: number
  ids: number[]
}
