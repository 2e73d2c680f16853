import { number, object, string, type InferType } from 'yup'
import { type Writing, writeFor } from '@/core/text/written'

const REGION = string()
  .matches(/^[A-Z]{2}$/, 'ARCH_REGION: two capital letters')
  .default('GB')

const LOCALE = string()
  .test(
    'locale',
    'ARCH_LOCALE: not a language and country this Node.js knows',
    (v) => v === undefined || Intl.DateTimeFormat.supportedLocalesOf(tag(v)).length > 0,
  )
  .default('en-GB')

const CURRENCY = string()
  .matches(/^[A-Z]{3}$/, 'ARCH_CURRENCY: three capital letters')
  .default('GBP')

const ZONE = string()
  .test('zone', 'ARCH_ZONE: not a time zone this Node.js knows', (v) => v === undefined || isZone(v))
  .default('Europe/London')

const PORT = number().integer().min(1).max(65535)

const schema = object({
  /** Connection of the application's role, which is not the owner of anything. */
  APP_DATABASE_URL: string()
    .matches(/^postgres(ql)?:\/\//, 'APP_DATABASE_URL: a postgresql:// address')
    .required(),
  PORT: number().integer().min(1).max(65535).default(3000),
  ENGINE_PORT: number().integer().min(1).max(65535).default(3001),
  /** Where outside sources are reached on this machine. */
  SOURCES_PORT: PORT.default(3950),
  /** Where the mail service takes emails on this machine, by SMTP. */
  MAIL_PORT: PORT.default(3925),
  /** How many proxies stand before the application and write X-Forwarded-For; without one the header is not believed. */
  ARCH_PROXIES: number().integer().min(0).max(10).default(0),
  /** Signs sessions, keys suppressions and lets the application in at the engine. At least 32 characters. */
  ARCH_SECRET: string().min(32).required(),
  /** Named time zone of lists, registers and dates on screen. */
  ARCH_ZONE: ZONE,
  /** Region that phone numbers without a country code belong to. */
  ARCH_REGION: REGION,
  /** Language and country that figures, dates and money are written for, as a BCP 47 tag. */
  ARCH_LOCALE: LOCALE,
  /** ISO 4217 code of the money that prices and values are in. */
  ARCH_CURRENCY: CURRENCY,
  /** A file that holds the instant the application takes for now; for tests. */
  ARCH_CLOCK_FILE: string(),
  ARCH_LOG: string().oneOf(['fatal', 'error', 'warn', 'info', 'debug', 'silent']).default('info'),
  /** Where a browser reaches the application. */
  ARCH_URL: string().url(),
  /** Whom notices to colleagues come from. */
  ARCH_MAIL_FROM: string().email('ARCH_MAIL_FROM: not an email address').default('arch-ledger@localhost.example'),
})

export type Settings = InferType<typeof schema>

let known: Settings | null = null

/** The settings from the environment. Throws an Error that names every setting that is missing or wrong. */
export function settings(): Settings {
  if (!known) {
    try {
      writeFor(writing())
      known = schema.validateSync(process.env, { abortEarly: false, stripUnknown: true })
    } catch (error) {
      throw new Error(`settings: ${(error as { errors: string[] }).errors.join('; ')}`)
    }
  }
  return known
}

/** Where a browser reaches the application, without a slash at its end. */
export const ourUrl = (): string => (settings().ARCH_URL ?? `http://localhost:${settings().PORT}`).replace(/\/$/, '')

/** For tests, which give one process another database after the other: the environment is read anew. */
export function forgetSettings(): void {
  known = null
}

/** Where the stand-ins listen; they are given no other settings. */
export function sourcesPort(): number {
  return PORT.default(3950).validateSync(process.env.SOURCES_PORT || undefined)
}

/** Where the stand-in for a mail service takes emails. */
export function mailPort(): number {
  return PORT.default(3925).validateSync(process.env.MAIL_PORT || undefined)
}

/** The region of phone numbers and positions, for processes that are given no other settings. */
export function region(): string {
  return REGION.validateSync(process.env.ARCH_REGION) as string
}

const WRITING = object({ ARCH_LOCALE: LOCALE, ARCH_CURRENCY: CURRENCY, ARCH_ZONE: ZONE })

/** How the team writes figures, dates and money, for processes that are given no other settings, too. */
export function writing(): Writing {
  const { ARCH_LOCALE, ARCH_CURRENCY, ARCH_ZONE } = WRITING.validateSync(process.env, { abortEarly: false, stripUnknown: true })
  return { locale: ARCH_LOCALE, currency: ARCH_CURRENCY, zone: ARCH_ZONE }
}

/** A text as a language tag, or one that nobody knows where it cannot be one. */
function tag(text: string): string {
  try {
    return Intl.getCanonicalLocales(text)[0]
  } catch {
    return 'xx'
  }
}

function isZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name })
    return true
  } catch {
    return false
  }
}
