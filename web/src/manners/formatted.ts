import DOMPurify from 'dompurify'
import { Marked } from 'marked'
import type { Picture } from '@climber/contract'

/** What draws formulas; it is large, and fetched with the first of them. */
type Formulas = (text: string, block: boolean) => string
let formulas: Promise<Formulas> | undefined
const loadFormulas = (): Promise<Formulas> =>
  (formulas ??= import('katex').then(
    ({ default: katex }) =>
      (text, displayMode) =>
        katex.renderToString(text, { displayMode, output: 'mathml', throwOnError: false }),
  ))

/** Formulas stand between dollars, as `$x$` or, by themselves, as `$$x$$`. A dollar before a space or a figure is money. */
const inline = /^\$(?![\s\d])((?:\\.|[^$\\\n])+?)(?<!\s)\$(?!\d)/
const block = /^\$\$([\s\S]+?)\$\$/

function markedWith(draw: Formulas): Marked {
  const marked = new Marked({ gfm: true, breaks: false, async: false })
  marked.use({
    extensions: [
      {
        name: 'block formula',
        level: 'inline',
        start: (source) => source.indexOf('$$'),
        tokenizer: (source) => {
          const found = block.exec(source)
          return found ? { type: 'block formula', raw: found[0], text: found[1]! } : undefined
        },
        renderer: ({ text }) => draw(String(text), true),
      },
      {
        name: 'formula',
        level: 'inline',
        start: (source) => source.indexOf('$'),
        tokenizer: (source) => {
          const found = inline.exec(source)
          return found ? { type: 'formula', raw: found[0], text: found[1]! } : undefined
        },
        renderer: ({ text }) => draw(String(text), false),
      },
    ],
  })
  return marked
}

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (one) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[one]!)

/** Addresses that a text may show: pictures of its own form, by `picture:id`. Nothing is fetched from anywhere. */
function withPictures(html: string, pictures: readonly Picture[]): string {
  const page = new DOMParser().parseFromString(html, 'text/html')
  for (const image of page.querySelectorAll('img')) {
    const found = pictures.find(({ id }) => image.getAttribute('src') === `picture:${id}`)
    if (found) {
      image.setAttribute('src', `data:${found.type};base64,${found.data}`)
      if (!image.getAttribute('alt')) image.setAttribute('alt', found.alt)
    } else image.replaceWith(page.createTextNode(image.getAttribute('alt') ?? ''))
  }
  for (const link of page.querySelectorAll('a')) link.replaceWith(...link.childNodes)
  // A corner of a table that says nothing heads nothing.
  for (const head of page.querySelectorAll('th:empty')) head.replaceWith(page.createElement('td'))
  return page.body.innerHTML
}

/** HTML of a text of a form, Markdown with formulas, safe to show whoever wrote it. `within` leaves out the paragraph around it. */
export async function formatted(
  text: string,
  pictures: readonly Picture[] = [],
  within = false,
): Promise<string> {
  const draw: Formulas = text.includes('$') ? await loadFormulas() : escaped
  const marked = markedWith(draw)
  const html = within ? marked.parseInline(text) : marked.parse(text)
  const clean = DOMPurify.sanitize(html as string, {
    USE_PROFILES: { html: true, mathMl: true },
    FORBID_TAGS: [
      'form',
      'input',
      'button',
      'select',
      'textarea',
      'style',
      'iframe',
      'video',
      'audio',
      'picture',
      'source',
    ],
    FORBID_ATTR: ['style', 'id', 'class', 'srcset', 'background'],
    ALLOWED_URI_REGEXP: /^picture:/i,
    ALLOW_DATA_ATTR: false,
  })
  return withPictures(clean, pictures)
}
