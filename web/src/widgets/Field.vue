<script setup lang="ts" generic="T extends string | number | undefined">
import { computed } from 'vue'

/** One field with its label, unit and what is wrong with it. An emptied optional field gives undefined. */
const props = withDefaults(
  defineProps<{
    label: string
    type?: 'text' | 'number' | 'date' | 'time'
    problem?: string
    unit?: string
    hide?: boolean
    optional?: boolean
    placeholder?: string
    step?: number | 'any'
    width?: string
  }>(),
  {
    type: 'text',
    problem: undefined,
    unit: undefined,
    placeholder: undefined,
    step: 'any',
    width: undefined,
  },
)
const value = defineModel<T>({ required: true })
const shown = computed(() => value.value ?? '')
function take(event: Event): void {
  const { value: text } = event.target as HTMLInputElement
  if (text === '' && (props.optional || props.type === 'number')) value.value = undefined as T
  else value.value = (props.type === 'number' ? Number(text) : text) as T
}
</script>

<template>
  <label class="field" :class="{ wide: type === 'text' }" :style="width ? { width } : undefined">
    <span :class="hide ? 'only-reader' : 'small soft'">{{ label }}</span>
    <span class="line">
      <input
        class="figure"
        :aria-label="label"
        :type="type"
        :value="shown"
        :step="type === 'number' ? step : undefined"
        :placeholder="placeholder"
        :aria-invalid="Boolean(problem) || undefined"
        @input="take"
      /><span v-if="unit" class="small soft">{{ unit }}</span>
    </span>
    <span v-if="problem" class="bad small" role="alert">{{ problem }}</span>
  </label>
</template>

<style scoped>
.field {
  display: inline-grid;
  align-content: start;
}
.field.wide {
  display: grid;
}
.line {
  display: flex;
  align-items: baseline;
  gap: 4px;
}
.wide input {
  width: 100%;
  min-width: 0;
}
</style>
