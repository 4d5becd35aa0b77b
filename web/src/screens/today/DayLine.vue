<script setup lang="ts">
import { computed } from 'vue'
import { scaleLinear } from 'd3'
import type { StoredSession } from '@climber/contract'
import { minuteOf, timeOf } from '@climber/core'
import { kindWord } from '../../manners/kinds'
import { endOf } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** The day from its first session to its last, and where in it one is. */
const props = defineProps<{ sessions: StoredSession[]; minute: number }>()
const workspace = useWorkspace()
const from = computed(() => Math.min(...props.sessions.map(({ start }) => minuteOf(start))))
const to = computed(() => Math.max(...props.sessions.map(({ start, minutes }) => minuteOf(start) + minutes)))
const x = computed(() =>
  scaleLinear([Math.floor(from.value / 60) * 60, Math.ceil(to.value / 60) * 60], [0, 100]),
)
const ticks = computed(() => {
  const [first, last] = x.value.domain() as [number, number]
  const step = last - first > 480 ? 120 : 60
  return Array.from({ length: Math.floor((last - first) / step) + 1 }, (_, at) => first + at * step)
})
const isNow = computed(() => {
  const [first, last] = x.value.domain() as [number, number]
  return props.minute >= first && props.minute <= last
})
</script>

<template>
  <div
    class="line"
    role="img"
    :aria-label="
      sessions
        .map(
          ({ start, minutes }, at) =>
            `${start} to ${endOf(start, minutes)} ${workspace.titleOf(sessions[at]!)}`,
        )
        .join('; ')
    "
  >
    <span
      v-for="session in sessions"
      :key="session.id"
      class="kind block"
      :class="[`kind-${session.kind}`, `state-${session.status}`]"
      :style="{
        left: `${x(minuteOf(session.start))}%`,
        width: `${x(minuteOf(session.start) + session.minutes) - x(minuteOf(session.start))}%`,
      }"
      :title="`${session.start} ${workspace.titleOf(session)}`"
      ><span class="word">{{ kindWord(session) }}</span></span
    >
    <span v-if="isNow" class="now" :style="{ left: `${x(minute)}%` }" />
    <span v-for="tick in ticks" :key="tick" class="tick small soft" :style="{ left: `${x(tick)}%` }">{{
      timeOf(tick)
    }}</span>
  </div>
</template>

<style scoped>
.line {
  position: relative;
  height: 54px;
  margin-right: 36px;
}
.block {
  position: absolute;
  top: 0;
  height: 32px;
  overflow: hidden;
  padding: 5px 6px;
  font-size: 13px;
  white-space: nowrap;
}
.line::after {
  content: '';
  position: absolute;
  inset: 32px 0 auto;
  border-top: 1px solid var(--ink);
}
.now {
  position: absolute;
  top: -4px;
  height: 40px;
  border-left: 2px solid var(--clay);
}
.tick {
  position: absolute;
  top: 35px;
}
</style>
