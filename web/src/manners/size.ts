import { onBeforeUnmount, onMounted, type Ref, ref } from 'vue'

/** Width of an element in pixels, kept up to date from before it is first painted. */
export function useWidth(element: Ref<HTMLElement | null>, initial = 800): Ref<number> {
  const width = ref(initial)
  const take = (pixels: number): void => {
    width.value = Math.max(200, pixels)
  }
  const observer = new ResizeObserver(([entry]) => {
    if (entry) take(entry.contentRect.width)
  })
  onMounted(() => {
    if (!element.value) return
    // The observer is heard a frame later only: until then what is drawn would stand out of a narrow page.
    if (element.value.clientWidth) take(element.value.clientWidth)
    observer.observe(element.value)
  })
  onBeforeUnmount(() => observer.disconnect())
  return width
}

/** Whether the window is at most so many pixels wide. */
export function useNarrow(pixels: number): Ref<boolean> {
  const query = matchMedia(`(max-width: ${pixels}px)`)
  const narrow = ref(query.matches)
  const look = () => (narrow.value = query.matches)
  onMounted(() => query.addEventListener('change', look))
  onBeforeUnmount(() => query.removeEventListener('change', look))
  return narrow
}
