import { onBeforeUnmount, onMounted, type Ref, ref } from 'vue'

/** Width of an element in pixels, kept up to date. */
export function useWidth(element: Ref<HTMLElement | null>, initial = 800): Ref<number> {
  const width = ref(initial)
  const observer = new ResizeObserver(([entry]) => {
    if (entry) width.value = Math.max(200, entry.contentRect.width)
  })
  onMounted(() => element.value && observer.observe(element.value))
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
