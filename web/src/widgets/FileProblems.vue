<script setup lang="ts">
import { computed } from 'vue'
import type { Problem } from '../stores/autosave'

/** `more` counts those that were not handed over, where there are too many to read. */
const props = defineProps<{ problems: Problem[]; more?: number }>()
const all = computed(() => props.problems.length + (props.more ?? 0))
</script>

<template>
  <div v-if="problems.length" role="alert" class="stack">
    <p class="bad">
      Nothing was taken from the file:
      {{ all === 1 ? 'one thing in it is' : `${all} things in it are` }} not right.
    </p>
    <table class="lines small">
      <tbody>
        <tr v-for="(problem, at) in problems" :key="at">
          <th scope="row">{{ problem.field || 'the file' }}</th>
          <td>{{ problem.message }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="more" class="small soft">and {{ more }} more.</p>
  </div>
</template>
