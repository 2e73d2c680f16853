import MarkdownIt from 'markdown-it'

/** HTML in a letter is shown as it is written. Pictures are left as text: fetching one tells its server who opened the email. */
const markdown = new MarkdownIt('commonmark', { html: false, breaks: true, linkify: true }).enable('linkify').disable('image')

/** A value so that nothing in it is markup: every mark of ASCII can be escaped (CommonMark 0.31.2, section 2.4). */
export const escaped = (value: string): string => value.replace(/[!-/:-@[-`{-~]/g, '\\$&')

/** The HTML of a letter in Markdown, with what stands under it: who sends it, from where, and a link to stop it. */
export function letterHtml(text: string, footer: { sender: string; address: string; stop: string }): string {
  const lines = [footer.sender, ...footer.address.trim().split('\n')].filter(Boolean).map(asText)
  return `${markdown.render(text)}<hr>\n<p>${lines.join('<br>\n')}<br>\n<a href="${asText(footer.stop)}">Stop these emails</a></p>\n`
}

/** The HTML of a notice in Markdown. */
export const noticeHtml = (text: string): string => markdown.render(text)

const asText = (text: string): string => markdown.utils.escapeHtml(text)
