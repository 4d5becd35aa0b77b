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

/** The first of some words that has so many pixels; the last where none has. */
export const thatFits = (words: readonly string[], pixels: number, font: string): string =>
  words.find((text) => textWidth(text, font) <= pixels) ?? words[words.length - 1] ?? ''
