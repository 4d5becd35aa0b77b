<script setup lang="ts">
/** A share known, 0 to 1, as a point in the range it lies in 8 times in 10. Name it from outside. */
const props = defineProps<{ mean: number; low: number; high: number; width: number }>()
const inset = 4
const x = (share: number) => inset + share * (props.width - 2 * inset)
</script>

<template>
  <svg :width="width" height="16">
    <line :x1="x(0)" :x2="x(1)" y1="8" y2="8" class="axis" />
    <line :x1="x(low)" :x2="x(high)" y1="8" y2="8" class="range" />
    <circle :cx="x(mean)" cy="8" r="4" class="mean" />
  </svg>
</template>

<style scoped>
.axis {
  stroke: var(--hair);
}
.range {
  stroke: var(--water);
  stroke-width: 6;
  stroke-opacity: 0.35;
}
.mean {
  fill: var(--water);
}
</style>
