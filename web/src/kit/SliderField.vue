<script setup lang="ts">
/** A number that is pulled along its range; arrows step it. `shown` is how it stands beside the slider. */
defineProps<{ label: string; min: number; max: number; step: number; shown: string; quiet?: boolean }>()
const value = defineModel<number>({ required: true })
</script>

<template>
  <div class="slider-field" :class="{ quiet }">
    <span :class="{ 'only-reader': quiet }" aria-hidden="true">{{ label }}</span>
    <v-slider
      v-model="value"
      :min="min"
      :max="max"
      :step="step"
      :name="label"
      hide-details
      density="compact"
      color="primary"
      track-size="2"
      thumb-size="16"
    />
    <strong>{{ shown }}</strong>
  </div>
</template>

<style scoped>
.slider-field {
  display: grid;
  grid-template-columns: 150px minmax(80px, 1fr) 76px;
  gap: 12px;
  align-items: center;
}
@media (max-width: 420px) {
  .slider-field:not(.quiet) {
    grid-template-columns: minmax(0, 1fr) 70px;
    gap: 0 12px;
  }
  .slider-field:not(.quiet) > :first-child {
    grid-column: 1 / -1;
  }
}
.slider-field.quiet {
  grid-template-columns: minmax(120px, 260px) auto;
  flex: 1 1 260px;
}
</style>
