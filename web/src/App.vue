<script setup lang="ts">
import 'vuetify/styles'
import { defineAsyncComponent, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { finding, useCommands } from './commands'
import { inField } from './manners/inField'
import { useSession } from './stores/session'

// Not needed until they are asked for.
const KeyList = defineAsyncComponent(() => import('./widgets/KeyList.vue'))
const CommandPalette = defineAsyncComponent(() => import('./widgets/CommandPalette.vue'))

const session = useSession()
const route = useRoute()
const router = useRouter()
// A session that ended while one was at work: what waits stays, and one comes back to the same place.
watch(
  () => session.signedIn,
  (now) => {
    // A test goes on all the same: what is pressed stays on the device.
    if (!now && !route.meta.open && route.name !== 'room')
      void router.push({ name: 'sign-in', query: { to: route.fullPath } })
  },
)

const keys = ref(false)
useCommands(() =>
  session.signedIn
    ? [
        { title: 'All plans', of: 'Go to', to: { name: 'roster' } },
        { title: 'New plan', of: 'Go to', to: { name: 'new' } },
        { title: 'Exam formats', of: 'Go to', to: { name: 'exams' } },
        { title: 'Go to, or do', of: 'Anywhere', keys: 'Ctrl k', run: () => (finding.value = true) },
        { title: 'This list of keys', of: 'Anywhere', keys: '?', run: () => (keys.value = true) },
      ]
    : [],
)
function press(event: KeyboardEvent): void {
  if (event.key === 'Escape') keys.value = false
  const isFind = (event.ctrlKey || event.metaKey) && !event.shiftKey && event.key.toLowerCase() === 'k'
  if (isFind && session.signedIn && route.name !== 'room') {
    finding.value = !finding.value
    event.preventDefault()
  }
  if (event.key === '?' && !inField(event.target) && route.name !== 'room') {
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
    <KeyList v-if="keys" v-model="keys" />
    <CommandPalette v-if="finding" v-model="finding" />
  </v-app>
</template>
