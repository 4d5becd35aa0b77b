<script setup lang="ts">
import { computed } from 'vue'
import type { Rail } from '@climber/core'
import { clockWords } from '../../manners/words'

/** Where one is against the pace: the bar grows up while ahead and down while behind. */
const props = defineProps<{ rail?: Rail; flat?: boolean }>()

/** Seconds to either end of the rail. */
const span = 300
const ahead = computed(() => Math.round(props.rail?.ahead ?? 0))
const words = computed(() =>
  !props.rail
    ? ''
    : Math.abs(ahead.value) < 5
      ? 'on pace'
      : ahead.value > 0
        ? `${clockWords(ahead.value)} ahead`
        : `${clockWords(-ahead.value)} behind`,
)
const share = computed(() => Math.max(-1, Math.min(1, ahead.value / span)))
/** Time to leave the item, and long past it. */
const cue = computed(() => {
  const on = props.rail?.on
  if (!on || on.leave === null || on.spent < on.leave) return ''
  return on.spent > 1.5 * on.leave ? 'late' : 'leave'
})
const next = computed(() => props.rail?.next)
</script>

<template>
  <section
    class="rail"
    :class="[{ flat }, cue]"
    aria-label="Pace"
    :data-cue="cue || 'none'"
    data-testid="rail"
  >
    <svg
      :viewBox="flat ? '0 0 200 14' : '0 0 14 200'"
      preserveAspectRatio="none"
      aria-hidden="true"
      focusable="false"
    >
      <template v-if="flat">
        <rect x="0" y="0" width="200" height="14" class="ground" />
        <rect
          y="2"
          height="10"
          :x="100 + Math.min(0, share) * 100"
          :width="Math.abs(share) * 100"
          :class="share < 0 ? 'behind' : 'ahead'"
        />
        <line x1="100" x2="100" y1="0" y2="14" class="line" />
      </template>
      <template v-else>
        <rect x="0" y="0" width="14" height="200" class="ground" />
        <rect
          x="2"
          width="10"
          :y="100 - Math.max(0, share) * 100"
          :height="Math.abs(share) * 100"
          :class="share < 0 ? 'behind' : 'ahead'"
        />
        <line y1="100" y2="100" x1="0" x2="14" class="line" />
      </template>
    </svg>
    <p class="words">
      <strong>{{ words }}</strong>
      <span v-if="cue" class="small mark">time to leave it</span>
      <span v-if="next && !flat" class="small soft"
        >item {{ next.item }} by {{ clockWords(next.seconds) }}</span
      >
    </p>
  </section>
</template>

<style scoped>
.rail {
  display: grid;
  grid-template-rows: 1fr auto;
  justify-items: start;
  gap: 8px;
  min-height: 0;
}
svg {
  width: 14px;
  height: 100%;
}
.words {
  display: grid;
  gap: 2px;
  width: 92px;
  min-height: 62px;
}
.ground {
  fill: var(--faint);
}
.leave .ground {
  fill: color-mix(in srgb, var(--ochre) 30%, var(--paper));
}
.late .ground {
  fill: color-mix(in srgb, var(--clay) 34%, var(--paper));
}
.ahead {
  fill: var(--lichen);
}
.behind {
  fill: var(--clay);
}
.line {
  stroke: var(--ink);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.flat {
  grid-template-rows: none;
  grid-template-columns: 1fr auto;
  align-items: center;
}
.flat svg {
  width: 100%;
  height: 14px;
}
.flat .words {
  width: auto;
  min-width: 84px;
  min-height: 0;
  text-align: right;
}
</style>
