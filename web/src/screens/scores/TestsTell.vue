<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import type { TestsTell } from '@climber/core'
import { newestOnly } from '../../manners/newest'
import { dateWords, percentWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** What the newest test changed and why, and what to expect of the next. */
const workspace = useWorkspace()
const found = shallowRef<TestsTell>()
const work = newestOnly(async () => {
  found.value = await workspace.ask('testsTell')
})
watch(
  () => workspace.record,
  () => void work(),
  { immediate: true },
)

const last = computed(() => found.value?.last)
const next = computed(() => found.value?.next)
const titleOf = (id: string) => workspace.exam?.topics.find((one) => one.id === id)?.title ?? id
const round = Math.round
const points = (by: number) => `${Math.abs(round(by))} point${Math.abs(round(by)) === 1 ? '' : 's'}`
const between = ({ low, high }: { low: number; high: number }) => `${round(low)} and ${round(high)}`
/** How the score lies to what was to be expected of it. */
const surprise = computed(() => {
  if (!last.value) return ''
  const { score, expected } = last.value
  const by = round(score - expected.mean)
  return by ? `${points(by)} ${by > 0 ? 'over' : 'under'} what was to be expected` : 'as was to be expected'
})
/** Where the points of the surprise are put: what is known now, the maker, the day and its luck. */
const causes = computed(() => {
  if (!last.value) return []
  const { today, maker, luck } = last.value
  const parts = [
    { by: today.after - today.before, words: 'is what you know' },
    ...(maker ? [{ by: maker.after - maker.before, words: "is how its maker's papers run" }] : []),
    { by: luck, words: 'is the day and the luck of its items' },
  ]
  return parts
    .filter(({ by }) => round(by) !== 0)
    .map(({ by, words }) => `${by > 0 ? '+' : '−'}${Math.abs(round(by))} ${words}`)
})
/** What is said of a figure before and after. */
const moved = ({ before, after }: { before: number; after: number }, words: (value: number) => string) =>
  words(before) === words(after)
    ? `${words(after)}, as before it`
    : `${words(after)}, and ${words(before)} before it`
const reached = computed(() => {
  const reach = last.value?.reach
  return reach && Math.abs(reach.after - reach.before) >= 0.005 ? reach : undefined
})
</script>

<template>
  <section v-if="last || next" class="stack tell" aria-label="What tests tell">
    <p v-if="last" data-testid="last-test">
      <strong>{{ last.title }}</strong> of {{ dateWords(last.date, workspace.today) }}:
      <strong>{{ last.score }}</strong>, {{ surprise }}, which was {{ round(last.expected.mean) }}, 8 times in
      10 between {{ between(last.expected) }}.
      <template v-if="causes.length">Of that {{ causes.join(', ') }}. </template>
      A paper today would score {{ moved(last.today, (score) => String(round(score)))
      }}<template v-if="last.odds">; the odds are {{ moved(last.odds, percentWords) }}</template
      >.
      <span class="soft small">
        Moved most:
        {{
          last.topics
            .map(
              ({ id, before, after }) => `${titleOf(id)} ${percentWords(before)} to ${percentWords(after)}`,
            )
            .join(', ')
        }}<template v-if="reached"
          >; share of the items you get to {{ percentWords(reached.before) }} to
          {{ percentWords(reached.after) }}</template
        >.
      </span>
    </p>
    <p v-if="next" data-testid="next-test">
      Next: {{ next.title ?? 'a test' }} on {{ dateWords(next.date, workspace.today) }}. Expect
      <strong>{{ round(next.expected.mean) }}</strong>, 8 times in 10 between {{ between(next.expected) }};
      below {{ round(next.expected.low) }}, look at the plan again<span class="soft small">
        ({{ points(next.expected.mean - next.expected.low) }} under what is expected)</span
      >.
    </p>
  </section>
</template>

<style scoped>
.tell {
  max-width: 900px;
}
</style>
