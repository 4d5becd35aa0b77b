import { onBeforeUnmount, onMounted } from 'vue'
import { inField } from './inField'

/** Ctrl Z and Ctrl Shift Z for as long as a screen stands; in a field the browser undoes what is being typed there. */
export function useUndoKeys(step: (redo: boolean) => unknown): void {
  function press(event: KeyboardEvent): void {
    if (inField(event.target)) return
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
    event.preventDefault()
    step(event.shiftKey)
  }
  onMounted(() => addEventListener('keydown', press))
  onBeforeUnmount(() => removeEventListener('keydown', press))
}
