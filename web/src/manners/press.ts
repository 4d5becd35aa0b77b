import { type Ref, shallowRef, watch } from 'vue'

/** While a pointer is down nothing that it may be meant for moves away under it: what was left by the press is told after it. */
let pressed = false
const waiting = new Set<() => void>()

function released(): void {
  // The click comes after the pointer is up.
  setTimeout(() => {
    pressed = false
    const all = [...waiting]
    waiting.clear()
    for (const then of all) then()
  })
}
if (typeof addEventListener === 'function') {
  addEventListener('pointerdown', () => (pressed = true), true)
  addEventListener('pointerup', released, true)
  addEventListener('pointercancel', released, true)
}

/** At once, or when the press that is going on has become a click. */
export function afterPress(then: () => void): void {
  if (pressed) waiting.add(then)
  else then()
}

/** Follows a value, but stands still during a press. */
export function steady<T>(read: () => T): Readonly<Ref<T>> {
  const shown = shallowRef(read())
  watch(read, () => afterPress(() => (shown.value = read())))
  return shown
}
