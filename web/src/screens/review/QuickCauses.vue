<script setup lang="ts">
import { computed, ref } from 'vue'
import { causesFor, causeTitle, readQuickCauses, type ReviewView } from '@climber/core'
import ProblemList from '../../kit/ProblemList.vue'
import TextField from '../../kit/TextField.vue'
import { useWorkspace } from '../../stores/workspace'

/** Causes from paper: item numbers with the number of their cause, as fast as they are read off. */
const props = defineProps<{ view: ReviewView }>()
const emit = defineEmits<{ done: [] }>()
const workspace = useWorkspace()
const text = ref('')
const all = computed(() => [...props.view.items, ...props.view.others])
const way = computed(() => props.view.way.mistakes)
/** Where only counts are known, any number may be an item. */
const known = (item: number): boolean =>
  all.value.some((one) => one.item === item) ||
  (!all.value.some(({ answer, key }) => answer || key) && item > 0 && item <= 1000)
const read = computed(() => readQuickCauses(text.value, way.value, known))
const keys = computed(() =>
  causesFor(way.value, { outcome: 'wrong' }).map(
    (cause, at) => `${at + 1} ${causeTitle(cause, way.value).toLowerCase()}`,
  ),
)
const problems = computed(() =>
  read.value.problems.map(({ line, message }) => ({ field: `line ${line}`, message })),
)
async function keep(): Promise<void> {
  for (const { item, cause } of read.value.causes)
    await workspace.noteItem(props.view.id, item, { cause, reviewedOn: workspace.today })
  text.value = ''
  emit('done')
}
</script>

<template>
  <section class="quick stack" aria-label="Causes by item number">
    <p class="small">
      From paper: an item and its cause, <b>12 1</b>, or a cause and all its items, <b>1: 12 7 31</b>. Causes:
      {{ keys.join(', ') }}.
    </p>
    <TextField v-model="text" label="Items and causes" :lines="3" />
    <ProblemList v-if="text.trim()" :problems="problems" />
    <div class="row">
      <v-btn class="main" :disabled="!read.causes.length || Boolean(problems.length)" @click="keep"
        >Keep {{ read.causes.length === 1 ? 'one cause' : `${read.causes.length} causes` }}</v-btn
      >
      <v-btn @click="emit('done')">Close</v-btn>
    </div>
  </section>
</template>

<style scoped>
.quick {
  padding: 12px 22px;
  border-bottom: 1px solid var(--hair);
  max-width: 760px;
}
</style>
