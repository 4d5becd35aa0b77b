/** What of its look an element keeps outside the page. */
const kept = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'opacity',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
]

/** A drawing as a file of its own: what the page's styles say of it is written into it. */
export function svgText(drawing: SVGSVGElement): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement
  const originals = drawing.querySelectorAll<SVGElement>('*')
  copy.querySelectorAll<SVGElement>('*').forEach((element, at) => {
    const look = getComputedStyle(originals[at]!)
    for (const name of kept) {
      const value = look.getPropertyValue(name)
      if (value) element.setAttribute(name, value)
    }
    element.removeAttribute('class')
  })
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.removeAttribute('class')
  return new XMLSerializer().serializeToString(copy)
}
