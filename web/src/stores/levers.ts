import { onBeforeUnmount, type ShallowRef, shallowRef, watch } from 'vue'
import type { Levers, Moved } from '@climber/core'
import { painted } from '../manners/painted'
import { plain } from '../workers/core'
import { useWorkspace } from './workspace'

/** Milliseconds after the last change in which fields come to rest: plans are made for the levers then. */
const rest = 150
/** What was worked out of a record, by the levers that were moved, so that two places that show it ask once. */
const known = new WeakMap<object, Map<string, Promise<Levers | undefined>>>()

/**
 * What would bring the odds to four in five, solved on plans that would be made: once the fields have come to rest, and beside everything
 * else. Undefined while it is being worked out.
 */
export function useLevers(moved: () => Moved = () => ({})): ShallowRef<Levers | undefined> {
  const workspace = useWorkspace()
  const found = shallowRef<Levers>()
  let resting: ReturnType<typeof setTimeout> | undefined
  const record = painted(() => workspace.record)
  watch(
    [record, painted(moved)],
    ([now, levers]) => {
      found.value = undefined
      clearTimeout(resting)
      if (!now) return
      resting = setTimeout(() => {
        const asked = known.get(now) ?? new Map<string, Promise<Levers | undefined>>()
        known.set(now, asked)
        const key = JSON.stringify(levers)
        const answer = asked.get(key) ?? workspace.askBeside('levers', plain(levers))
        asked.set(key, answer)
        answer
          .then((told) => {
            if (workspace.record === now && JSON.stringify(moved()) === key) found.value = told
          })
          .catch(() => undefined)
      }, rest)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => clearTimeout(resting))
  return found
}
