import { computed, reactive, ref, type Ref } from 'vue'
import type { Confidence } from '@climber/contract'
import { lettersOf, type ReviewItem } from '@climber/core'
import { useWorkspace } from '../../stores/workspace'

/** Seconds after which an item left on the screen is no longer being looked at. */
const longestLook = 900

/** Text, stimulus and letters of an item, from the form that it is of. */
export function useAsked(item: Ref<ReviewItem | undefined>) {
  const workspace = useWorkspace()
  const form = computed(() => {
    const attempt = workspace.record?.attempts.find(({ id }) => id === item.value?.attempt)
    return workspace.exam?.forms.find(({ id }) => id === attempt?.form)
  })
  const text = computed(() => {
    const { group, at = 0 } = item.value ?? {}
    return group === undefined ? undefined : form.value?.items?.[group]?.[at]
  })
  const stimulus = computed(() => form.value?.stimuli?.find(({ id }) => id === text.value?.stimulus))
  const letters = computed(() =>
    item.value?.kind === 'choice' ? [...lettersOf(item.value.choices ?? 4)] : [],
  )
  return { form, text, stimulus, letters }
}

/** Options struck out and the doubt that is marked, of the item being worked at; and how long it has been. */
export function useDoubts() {
  const struck = reactive(new Set<string>())
  const doubt = ref<Confidence>()
  let since = Date.now()
  return {
    struck,
    doubt,
    mark: (next: Confidence): void => void (doubt.value = doubt.value === next ? undefined : next),
    strike(letter: string): void {
      if (!struck.delete(letter)) struck.add(letter)
    },
    /** Another item is taken up. */
    anew(): void {
      struck.clear()
      doubt.value = undefined
      since = Date.now()
    },
    /** Seconds since it was taken up, or since this was last asked. */
    seconds(): number {
      const spent = Math.min(longestLook, Math.round((Date.now() - since) / 1000))
      since = Date.now()
      return spent
    },
  }
}
export type Doubts = ReturnType<typeof useDoubts>

/** What a key does while the answer is hidden: a letter answers, with Shift it strikes out; a doubt is marked. */
export function hiddenDeed(
  { key, shiftKey }: KeyboardEvent,
  letters: readonly string[],
  { mark, strike }: Pick<Doubts, 'mark' | 'strike'>,
  answer: (letter: string) => void,
): (() => void) | undefined {
  const letter = key.length === 1 ? key.toUpperCase() : ''
  if (letters.includes(letter)) return () => (shiftKey ? strike(letter) : answer(letter))
  if (key === '?') return () => mark('between two')
  if (key === '0') return () => mark('no idea')
  return undefined
}
