<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Picture } from '@climber/contract'
import { formatted } from '../manners/formatted'

/** A text of a form: Markdown with formulas and the form's own pictures. */
const props = defineProps<{ text: string; pictures?: Picture[]; within?: boolean }>()
const html = ref('')
let asked = 0
watch(
  () => [props.text, props.pictures, props.within] as const,
  async ([text, pictures, within]) => {
    const own = ++asked
    const found = await formatted(text, pictures, within)
    if (own === asked) html.value = found
  },
  { immediate: true },
)
</script>

<template>
  <!-- formatted() lets nothing through that could do anything. -->
  <!-- eslint-disable-next-line vue/no-v-html -->
  <span v-if="within" class="text" v-html="html" />
  <!-- eslint-disable-next-line vue/no-v-html -->
  <div v-else class="text" v-html="html" />
</template>

<style scoped>
.text :deep(p) {
  margin: 0 0 0.6em;
}
.text :deep(table) {
  border-collapse: collapse;
  margin: 0 0 0.6em;
}
.text :deep(th),
.text :deep(td) {
  border: 1px solid var(--hair);
  padding: 2px 8px;
  text-align: left;
}
.text :deep(img) {
  max-width: 100%;
}
.text :deep(pre) {
  overflow-x: auto;
}
.text :deep(ul),
.text :deep(ol) {
  padding-left: 1.4em;
}
</style>
