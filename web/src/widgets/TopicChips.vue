<script setup lang="ts">
import type { Topic } from '@climber/contract'

/** Some of the exam's topics: each can be taken out, others added from a list. */
const props = defineProps<{
  all: Pick<Topic, 'id' | 'title'>[]
  label: string
  /** Said of the button that takes a topic out, given its title. */
  without: (title: string) => string
  /** What the list says while nothing is chosen from it. */
  prompt: string
}>()
const topics = defineModel<string[]>({ required: true })
const titleOf = (id: string) => props.all.find((topic) => topic.id === id)?.title ?? id
function add(event: Event): void {
  const select = event.target as HTMLSelectElement
  if (select.value && !topics.value.includes(select.value)) topics.value = [...topics.value, select.value]
  select.value = ''
}
</script>

<template>
  <button
    v-for="id in topics"
    :key="id"
    type="button"
    class="chip"
    :aria-label="without(titleOf(id))"
    @click="topics = topics.filter((one) => one !== id)"
  >
    {{ titleOf(id) }} ×
  </button>
  <select class="figure" :aria-label="label" @change="add">
    <option value="">{{ prompt }}</option>
    <option v-for="topic in all" :key="topic.id" :value="topic.id">{{ topic.title }}</option>
  </select>
</template>
