import { computed, shallowRef, watch } from 'vue'
import type { ReasonsToMend } from '@climber/core'
import { newestOnly } from '../manners/newest'
import { useWorkspace } from './workspace'

/** Topics named before the rest are counted. */
const named = 2

const several = (count: number, one: string, more: string): string[] =>
  count === 0 ? [] : [count === 1 ? one : `${count} ${more}`]
const listed = (titles: string[]): string => {
  const rest = titles.length - named
  return rest > 0 ? `${titles.slice(0, named).join(', ')} and ${rest} more` : titles.join(', ')
}

/** Each reason to mend a plan in a sentence. */
export function reasonLines({ slipped, rests, clashes, orphans, remedies, more, less }: ReasonsToMend) {
  const asks = [more.length && `more of ${listed(more)}`, less.length && `less of ${listed(less)}`]
  return {
    slipped: several(
      slipped,
      'One session slipped and waits for a place.',
      'sessions slipped and wait for a place.',
    ),
    others: [
      ...several(
        rests,
        'The rest of one session waits for a place.',
        'sessions were left in part, and wait for a place.',
      ),
      ...several(
        clashes,
        'One session stands where there is no free time any more.',
        'sessions stand where there is no free time any more.',
      ),
      ...several(
        orphans,
        'What follows a test that is not sat still stands.',
        'sessions follow tests that are not sat.',
      ),
      ...several(
        remedies,
        'Work that a review asks for has no place yet.',
        'sets that reviews ask for have no place yet.',
      ),
      ...(more.length || less.length
        ? [`What came to light since the plan was made asks for ${asks.filter(Boolean).join(', and ')}.`]
        : []),
    ],
  }
}

/** Why the open plan should be mended, in sentences; asked again at each change and each day. */
export function useReasons() {
  const workspace = useWorkspace()
  const found = shallowRef<ReasonsToMend>()
  const work = newestOnly(async () => {
    found.value = workspace.plan ? await workspace.ask('reasonsToMend').catch(() => undefined) : undefined
  })
  watch([() => workspace.record, () => workspace.today], () => void work(), { immediate: true })
  const lines = computed(() => (found.value ? reasonLines(found.value) : { slipped: [], others: [] }))
  return {
    /** What slipped; and everything else. */
    lines,
    all: computed(() => [...lines.value.slipped, ...lines.value.others]),
    /** How many sessions wait for a place. */
    waiting: computed(() => (found.value ? found.value.slipped + found.value.rests : 0)),
  }
}
