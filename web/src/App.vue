<script setup lang="ts">
import 'vuetify/styles'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import KeyList from './widgets/KeyList.vue'

const keys = ref(false)
const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
function press(event: KeyboardEvent): void {
  if (event.key === 'Escape') keys.value = false
  if (event.key === '?' && !typing(event.target)) {
    keys.value = true
    event.preventDefault()
  }
}
onMounted(() => addEventListener('keydown', press))
onBeforeUnmount(() => removeEventListener('keydown', press))
</script>

<template>
  <v-app>
    <router-view />
    <KeyList v-model="keys" />
  </v-app>
</template>
