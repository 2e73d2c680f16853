import { dayText } from '@/core/text/written'
import type { NoteRow } from '@/db/directory/note-rows'

/** What a file says of the notes on people, by person: the latest first, each with its day and who wrote it. */
export function notesByPerson(rows: readonly NoteRow[]): Map<number, string> {
  const notes = new Map<number, string>()
  for (const { person, at, by, note } of rows) {
    const text = `${[dayText(at), by].filter(Boolean).join(', ')}: ${note.replace(/\s+/g, ' ').trim()}`
    notes.set(person, notes.has(person) ? `${notes.get(person)} | ${text}` : text)
  }
  return notes
}
