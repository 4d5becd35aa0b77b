import type { Page } from './test'

interface Hands {
  presses: number
  fields: number
  keys: number
  /** By the keystroke-level model. */
  minutes: number
}

/**
 * Counts what a hand would do, for an estimate by the keystroke-level model (Card, Moran and Newell 1980): 1.35 s of
 * thought for each field and press, 0.28 s a key; a field after another is reached with Tab, one after a press with the
 * mouse (1.1 s to point, 0.4 s to change hands), and a press is pointing, changing hands and 0.2 s.
 */
export async function countHands(page: Page): Promise<() => Promise<Hands>> {
  await page.addInitScript(() => {
    const hands = ((window as unknown as { hands: object }).hands = {
      presses: 0,
      tabs: 0,
      reaches: 0,
      keys: 0,
    })
    let typing = false
    let last: EventTarget | null = null
    document.addEventListener(
      'click',
      ({ target }) => {
        // A press on a label is passed on to its box; that is one press.
        if (target instanceof HTMLInputElement && target.closest('label')) return
        hands.presses += 1
        typing = false
      },
      true,
    )
    document.addEventListener(
      'input',
      ({ target }) => {
        // Lines of one text arrive one by one.
        if (target === last) return
        last = target
        if (typing) hands.tabs += 1
        else hands.reaches += 1
        typing = true
        hands.keys +=
          target instanceof HTMLSelectElement ? 2 : ((target as HTMLInputElement).value?.length ?? 0)
      },
      true,
    )
  })
  return async () => {
    const { presses, tabs, reaches, keys } = await page.evaluate(
      () =>
        (window as unknown as { hands: { presses: number; tabs: number; reaches: number; keys: number } })
          .hands,
    )
    const seconds =
      presses * (1.35 + 1.1 + 0.4 + 0.2) + tabs * (1.35 + 0.28) + reaches * (1.35 + 1.1 + 0.4) + keys * 0.28
    return { presses, fields: tabs + reaches, keys, minutes: seconds / 60 }
  }
}
