import { onMounted, type Ref } from 'vue'

/** Milliseconds that a finger rests before it takes hold of what is under it: until then it may be scrolling. */
const restFor = 350
/** Pixels that a finger may stray and still rest. */
const stray = 8

/** Runs `rested` once a finger has rested where it was put down, or `tapped` if it is lifted there before. */
export function whenRested(event: PointerEvent, rested: () => void, tapped?: () => void): void {
  const end = () => {
    clearTimeout(timer)
    removeEventListener('pointermove', moved)
    removeEventListener('pointerup', lifted)
    removeEventListener('pointercancel', end)
  }
  const moved = ({ clientX, clientY }: PointerEvent) => {
    if (Math.hypot(clientX - event.clientX, clientY - event.clientY) > stray) end()
  }
  const lifted = () => {
    end()
    tapped?.()
  }
  const timer = setTimeout(() => {
    end()
    rested()
  }, restFor)
  addEventListener('pointermove', moved)
  addEventListener('pointerup', lifted)
  addEventListener('pointercancel', end)
}

/** While something in an element is held, a finger does not scroll the page. */
export const stillWhile = (element: Ref<HTMLElement | null>, held: () => boolean): void =>
  onMounted(() =>
    element.value?.addEventListener(
      'touchmove',
      (event) => {
        if (held()) event.preventDefault()
      },
      { passive: false },
    ),
  )
