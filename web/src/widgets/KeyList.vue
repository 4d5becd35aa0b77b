<script setup lang="ts">
import { computed } from 'vue'
import { commandsHere, handKeys } from '../commands'

/** Keys of what can be done from here, and those of whatever has the focus. */
const open = defineModel<boolean>({ required: true })
const keys = computed(() => [
  ...commandsHere().flatMap(({ keys: own, title }) => (own ? [[own, title] as const] : [])),
  ...handKeys,
])
</script>

<template>
  <v-dialog v-model="open" max-width="560" scrollable aria-labelledby="keys-title">
    <v-card class="pa-5">
      <h2 id="keys-title">Keys</h2>
      <div class="list" tabindex="0" role="region" aria-labelledby="keys-title">
        <table class="lines mt-3">
          <tbody>
            <tr v-for="[key, what] in keys" :key="key + what">
              <th scope="row">
                <kbd>{{ key }}</kbd>
              </th>
              <td>{{ what }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="mt-4"><v-btn @click="open = false">Close</v-btn></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.list {
  overflow-y: auto;
}
</style>
