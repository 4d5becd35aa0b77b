<script setup lang="ts" generic="T extends string | number">
import { useId } from 'vue'

/** Any number of several, all in sight; one alone is a box to tick. */
defineProps<{
  label: string
  options: readonly { value: T; title: string }[]
  hint?: string
  errors?: string | string[]
}>()
const value = defineModel<T[]>({ required: true })
const id = useId()
</script>

<template>
  <fieldset class="choices" :aria-describedby="`${id}-said`">
    <legend class="small soft">{{ label }}</legend>
    <div class="row">
      <v-checkbox
        v-for="option in options"
        :key="option.value"
        v-model="value"
        :value="option.value"
        :label="option.title"
        density="compact"
        hide-details
      />
    </div>
    <div :id="`${id}-said`" class="small">
      <template v-if="errors?.length"
        ><span class="bad" role="alert">{{ [errors].flat().join('; ') }}</span></template
      >
      <span v-else-if="hint" class="soft">{{ hint }}</span>
    </div>
  </fieldset>
</template>

<style scoped>
.choices {
  border: 0;
  margin: 0;
  padding: 0;
}
/* A row breaks between the choices and not within one. */
.choices .v-checkbox {
  flex: none;
  max-width: 100%;
}
</style>
