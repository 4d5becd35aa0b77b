<script setup lang="ts">
import { computed } from 'vue'

/** The possible candidates as dots, one in a hundred: those who pass are filled. */
const props = defineProps<{ odds: number }>()
const filled = computed(() => Math.round(100 * props.odds))
const dots = Array.from({ length: 100 }, (_, at) => ({
  x: 5 + (at % 20) * 10,
  y: 5 + Math.floor(at / 20) * 10,
}))
</script>

<template>
  <svg
    width="200"
    height="50"
    viewBox="0 0 200 50"
    role="img"
    :aria-label="`${filled} of 100 possible candidates pass`"
  >
    <circle
      v-for="(dot, at) in dots"
      :key="at"
      :cx="dot.x"
      :cy="dot.y"
      r="3.4"
      :class="{ passes: at < filled }"
    />
  </svg>
</template>

<style scoped>
circle {
  fill: none;
  stroke: var(--soft);
  stroke-width: 0.8;
}
.passes {
  fill: var(--water);
  stroke: var(--water);
}
svg {
  display: block;
  margin-top: 8px;
}
</style>
