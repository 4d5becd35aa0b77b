import type { Ref } from 'vue'
import type { StoredSession } from '@climber/contract'
import { minuteOf, timeOf } from '@climber/core'
import { stillWhile, whenRested } from '../../manners/finger'
import type { Arranging } from './arranging'
import { snap } from './holding'

interface Grip {
  session: { minutes: number; start?: string; date?: string }
  /** Minutes from the piece's start to where it was taken. */
  offset: number
  stretch: boolean
  x: number
  y: number
  begun: boolean
  begin: () => void
}

const snapped = (minute: number) => Math.round(minute / snap) * snap

/** Sessions pulled along and between the rulers by a mouse, or by a finger that rested on one first. */
export function useDragging(
  rulers: Ref<HTMLElement | null>,
  arranging: Arranging,
  placeAt: (event: PointerEvent) => { date: string; minute: number } | undefined,
) {
  let grip: Grip | undefined
  function grab(event: PointerEvent, session: StoredSession, stretch = false): void {
    if (event.button !== 0) return
    const at = placeAt(event)
    const what = {
      session,
      offset: at ? at.minute - minuteOf(session.start) : 0,
      stretch,
      begin: () => arranging.lift(session),
    }
    if (event.pointerType === 'touch')
      whenRested(event, () => {
        take(event, what)
        grip!.begun = true
        what.begin()
      })
    else take(event, what)
  }
  stillWhile(rulers, () => grip?.begun === true)
  function take(event: PointerEvent, what: Omit<Grip, 'x' | 'y' | 'begun'>): void {
    grip = { ...what, x: event.clientX, y: event.clientY, begun: false }
    addEventListener('pointermove', drag)
    addEventListener('pointerup', drop, { once: true })
    addEventListener('keydown', cancel)
  }
  function drag(event: PointerEvent): void {
    if (!grip) return
    if (!grip.begun) {
      if (Math.hypot(event.clientX - grip.x, event.clientY - grip.y) < 5) return
      grip.begun = true
      grip.begin()
    }
    const at = placeAt(event)
    if (!at) return
    const { session, offset, stretch } = grip
    if (stretch)
      arranging.over({
        date: session.date!,
        start: session.start!,
        minutes: Math.max(snap, snapped(at.minute - minuteOf(session.start!))),
      })
    else
      arranging.over({
        date: at.date,
        start: timeOf(Math.min(1440 - session.minutes, Math.max(0, snapped(at.minute - offset)))),
        minutes: session.minutes,
      })
  }
  function release(): void {
    removeEventListener('pointermove', drag)
    removeEventListener('keydown', cancel)
    grip = undefined
  }
  function drop(): void {
    const begun = grip?.begun
    release()
    if (begun) void arranging.putDown()
  }
  function cancel(event: KeyboardEvent): void {
    if (event.key !== 'Escape') return
    removeEventListener('pointerup', drop)
    release()
    arranging.letGo()
  }

  return { grab, take }
}
