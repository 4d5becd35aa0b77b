import { onBeforeUnmount, onMounted } from 'vue'

/** Keys of a screen where a letter is an answer, wherever else it goes to. Fields and buttons keep what is theirs. */
export function useDeedKeys(deedOf: (event: KeyboardEvent) => (() => void) | undefined): void {
  function press(event: KeyboardEvent): void {
    const { key, target } = event
    if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return
    if (target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) return
    if (target instanceof HTMLButtonElement && (key === ' ' || key === 'Enter')) return
    const deed = deedOf(event)
    if (!deed) return
    event.preventDefault()
    event.stopImmediatePropagation()
    deed()
  }
  onMounted(() => addEventListener('keydown', press, { capture: true }))
  onBeforeUnmount(() => removeEventListener('keydown', press, { capture: true }))
}
