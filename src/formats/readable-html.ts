import type { ReadablePage } from '@/core/views/sections'

const ESCAPED: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' }
const safe = (text: string): string => text.replace(/[&<>"']/g, (letter) => ESCAPED[letter])

/** A page as one HTML file that needs nothing else: no script, no picture, no style from elsewhere (HTML Living Standard). */
export function readableHtml({ title, about, sections }: ReadablePage): Buffer {
  const line = (of: ReadablePage['sections'][number]['lines'][number]): string =>
    typeof of === 'string' ? `<li>${safe(of)}</li>` : `<li><b>${safe(of[0])}:</b> ${safe(of[1])}</li>`
  const parts = sections.map(
    ({ title: heading, lines }) =>
      `<h2>${safe(heading)}</h2>\n${lines.length === 0 ? '<p>Nothing.</p>' : `<ul>\n${lines.map(line).join('\n')}\n</ul>`}`,
  )
  return Buffer.from(
    `<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><title>${safe(title)}</title>\n<style>body{font:16px/1.5 serif;max-width:44em;margin:2em auto;padding:0 1em}li{margin:.2em 0}</style></head>\n<body>\n<h1>${safe(title)}</h1>\n<p>${safe(about)}</p>\n${parts.join('\n')}\n</body>\n</html>\n`,
  )
}
