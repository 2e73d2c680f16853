import { number, object, string, type InferType } from 'yup'

const REGION = string()
  .matches(/^[A-Z]{2}$/, 'ARCH_REGION: two capital letters')
  .default('GB')

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
  /** How many proxies stand before the application and write X-Forwarded-For; without one the header is not believed. */
  ARCH_PROXIES: number().integer().min(0).max(10).default(0),
  /** Signs sessions, keys suppressions and lets the application in at the engine. At least 32 characters. */
  ARCH_SECRET: string().min(32).required(),
  /** Named time zone of lists, registers and dates on screen. */
  ARCH_ZONE: string()
    .test('zone', 'ARCH_ZONE: not a time zone this Node.js knows', (v) => v === undefined || isZone(v))
    .default('Europe/London'),
  /** Region that phone numbers without a country code belong to. */
  ARCH_REGION: REGION,
  /** A file that holds the instant the application takes for now; for tests. */
  ARCH_CLOCK_FILE: string(),
  ARCH_LOG: string().oneOf(['fatal', 'error', 'warn', 'info', 'debug', 'silent']).default('info'),
  /** Where a browser reaches the application. */
  ARCH_URL: string().url(),
})

export type Settings = InferType<typeof schema>

let known: Settings | null = null

/** The settings from the environment. Throws an Error that names every setting that is missing or wrong. */
export function settings(): Settings {
  if (!known) {
    try {
      known = schema.validateSync(process.env, { abortEarly: false, stripUnknown: true })
    } catch (error) {
      throw new Error(`settings: ${(error as { errors: string[] }).errors.join('; ')}`)
    }
  }
  return known
}

/** Where the stand-ins listen; they are given no other settings. */
export function sourcesPort(): number {
  return PORT.default(3950).validateSync(process.env.SOURCES_PORT || undefined)
}

/** The region of phone numbers and positions, for processes that are given no other settings. */
export function region(): string {
  return REGION.validateSync(process.env.ARCH_REGION) as string
}

function isZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name })
    return true
  } catch {
    return false
  }
}
