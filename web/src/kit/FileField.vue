<script setup lang="ts">
import { ref, useId } from 'vue'

/** A file to read, chosen or dropped. It is handed over once: the same file, mended, can be chosen again. */
defineProps<{
  label: string
  accept: string
  hint?: string
  errors?: string | string[]
  disabled?: boolean
}>()
const emit = defineEmits<{ chosen: [file: File] }>()
const id = useId()
const over = ref(false)
const input = ref<HTMLInputElement>()
function give(files: FileList | null | undefined): void {
  over.value = false
  const file = files?.[0]
  if (file) emit('chosen', file)
  if (input.value) input.value.value = ''
}
</script>

<template>
  <div
    class="file"
    :class="{ over }"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="give($event.dataTransfer?.files)"
  >
    <span class="small soft" aria-hidden="true">{{ label }}</span>
    <v-btn tabindex="-1" :disabled="disabled" aria-hidden="true" @click="input?.click()">Choose a file</v-btn>
    <input
      ref="input"
      class="only-reader"
      type="file"
      :accept="accept"
      :aria-label="label"
      :aria-describedby="`${id}-said`"
      :disabled="disabled"
      @change="give(input?.files)"
    />
    <span :id="`${id}-said`" class="small">
      <span v-if="errors?.length" class="bad" role="alert">{{ [errors].flat().join('; ') }}</span>
      <span v-else-if="hint" class="soft">{{ hint }}</span>
    </span>
  </div>
</template>

<style scoped>
.file {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  padding: 4px 0;
}
.file:focus-within :deep(.v-btn) {
  outline: 2px solid var(--ochre);
  outline-offset: 2px;
}
.over {
  background: var(--wash);
}
</style>
