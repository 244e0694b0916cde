/** Texts of help as they are written in the code, as HTML: paragraphs, lists, `code`. No HTML of their own gets through. */
import MarkdownIt from 'markdown-it'

const markdown = new MarkdownIt({ html: false, linkify: false })
// Texts come from operators that were shared, too: they lead nowhere and fetch nothing.
markdown.disable(['link', 'image', 'autolink', 'html_inline', 'html_block'])

export function toHtml(text: string): string {
  return markdown.render(text)
}
