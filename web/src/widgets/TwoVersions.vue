<script setup lang="ts">
import { computed } from 'vue'
import { differences } from '../manners/differences'
import { useWorkspace } from '../stores/workspace'

/** What somebody else stored and what one was storing, side by side where they differ. */
const props = defineProps<{ theirs: unknown; mine: unknown }>()
const workspace = useWorkspace()
const titles = computed(() => {
  const { exam } = workspace
  const all = exam
    ? [...exam.sections, ...exam.topics, ...exam.forms, ...exam.sections.flatMap(({ stages = [] }) => stages)]
    : []
  return new Map<string, string>(all.map(({ id, title }) => [id, title]))
})
const most = 8
const found = computed(() => differences(props.theirs, props.mine, titles.value))
</script>

<template>
  <table v-if="found.length" class="lines small" data-testid="two-versions">
    <thead>
      <tr>
        <td></td>
        <th>Theirs</th>
        <th>Yours</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in found.slice(0, most)" :key="one.what">
        <th scope="row">{{ one.what }}</th>
        <td>{{ one.theirs }}</td>
        <td>{{ one.mine }}</td>
      </tr>
    </tbody>
  </table>
  <p v-if="found.length > most" class="small soft">And {{ found.length - most }} more.</p>
</template>
