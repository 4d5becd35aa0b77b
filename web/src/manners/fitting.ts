import { type Ref, ref } from 'vue'

/** Width of a text in pixels, by its font as CSS writes it; by the letter where there is nothing to draw on. */
let brush: CanvasRenderingContext2D | null | undefined
export function textWidth(text: string, font: string): number {
  brush ??= document.createElement('canvas').getContext('2d')
  if (!brush) return text.length * 7
  brush.font = font
  return brush.measureText(text).width
}

/** How often fonts have come in: what was measured before measures differently then. */
export function useFonts(): Ref<number> {
  const come = ref(0)
  void document.fonts?.ready.then(() => come.value++)
  return come
}

/** Lines that a text takes when it is broken between its words; endless where a word has not the room. */
function linesOf(text: string, pixels: number, font: string): number {
  let lines = 1
  let line = ''
  for (const word of text.split(' ')) {
    if (textWidth(word, font) > pixels) return Infinity
    const longer = line ? `${line} ${word}` : word
    if (line && textWidth(longer, font) > pixels) {
      lines++
      line = word
    } else line = longer
  }
  return lines
}

/** The first of some words that has room on so many lines of so many pixels; the last where none has. */
export const thatFits = (words: readonly string[], pixels: number, font: string, lines = 1): string =>
  words.find((text) => linesOf(text, pixels, font) <= lines) ?? words[words.length - 1] ?? ''
