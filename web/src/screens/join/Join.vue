<script setup lang="ts">
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { type ApiFailure, call } from '../../api'
import { useSession } from '../../stores/session'
import PageFrame from '../../widgets/PageFrame.vue'

const route = useRoute()
const router = useRouter()
const session = useSession()
const problem = ref('')

async function join(): Promise<void> {
  try {
    const { candidateId } = await call('join', {}, { code: String(route.params.code) })
    await router.push({ name: 'today', params: { candidateId } })
  } catch (error) {
    const { code, message } = error as ApiFailure
    problem.value =
      code === 'not-found'
        ? 'This invitation was used already, has run out, or was replaced. Ask your tutor for a new one.'
        : message
  }
}
</script>

<template>
  <PageFrame title="Your plan">
    <p>
      Your tutor has made a plan for you. Open it as {{ session.user?.name }}, and you both see and keep it.
    </p>
    <div><v-btn size="default" class="main" @click="join">Open my plan</v-btn></div>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
  </PageFrame>
</template>
