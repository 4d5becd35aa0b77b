import { onScopeDispose, type Ref, shallowRef, watch } from 'vue'

/** Runs something once the frame that is being made is on the screen. Gives what calls it off. */
export function afterPaint(then: () => void): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined
  const frame = requestAnimationFrame(() => (timer = setTimeout(then)))
  return () => {
    cancelAnimationFrame(frame)
    clearTimeout(timer)
  }
}

/**
 * Follows a value one frame behind: what was pressed shows at once that it was, and what takes long to draw for it comes after. Of
 * several changes within a frame the last counts.
 */
export function painted<T>(read: () => T): Readonly<Ref<T>> {
  const shown = shallowRef(read())
  let stop = () => {}
  watch(read, () => {
    stop()
    stop = afterPaint(() => (shown.value = read()))
  })
  onScopeDispose(() => stop())
  return shown
}
