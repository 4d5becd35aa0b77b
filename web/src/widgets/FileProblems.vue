<script setup lang="ts">
import type { Problem } from '../stores/autosave'

defineProps<{ problems: Problem[] }>()
const most = 500
</script>

<template>
  <div v-if="problems.length" role="alert" class="stack">
    <p class="bad">
      Nothing was taken from the file:
      {{ problems.length === 1 ? 'one thing in it is' : `${problems.length} things in it are` }} not right.
    </p>
    <table class="lines small">
      <tbody>
        <tr v-for="(problem, at) in problems.slice(0, most)" :key="at">
          <th scope="row">{{ problem.field || 'the file' }}</th>
          <td>{{ problem.message }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="problems.length > most" class="small soft">and {{ problems.length - most }} more.</p>
  </div>
</template>
