<script setup lang="ts">
import 'vuetify/styles'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useSession } from './stores/session'
import KeyList from './widgets/KeyList.vue'

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
const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
function press(event: KeyboardEvent): void {
  if (event.key === 'Escape') keys.value = false
  if (event.key === '?' && !typing(event.target) && route.name !== 'room') {
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
