<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Invitation } from '@climber/contract'
import { type ApiFailure, call } from '../../api'
import { dateWords, distanceWords } from '../../manners/words'
import { useSession } from '../../stores/session'
import PageFrame from '../../widgets/PageFrame.vue'

/** An invitation: from whom, to what, and what there will be to see, before anybody signs in. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const invitation = shallowRef<Invitation>()
const problem = ref('')
const code = computed(() => String(route.params.code))
const today = computed(() => session.now().slice(0, 10))

async function tried(work: () => Promise<void>): Promise<void> {
  problem.value = ''
  try {
    await work()
  } catch (error) {
    const failure = error as ApiFailure
    problem.value =
      failure.code === 'not-found'
        ? 'This invitation was used already, has run out, or was replaced. Ask your tutor for a new one.'
        : failure.message
  }
}
onMounted(() =>
  tried(async () => {
    invitation.value = await call('readInvitation', {}, { code: code.value })
  }),
)
const join = () =>
  tried(async () => {
    const { candidateId } = await call('join', {}, { code: code.value })
    await router.push({ name: 'today', params: { candidateId } })
  })
</script>

<template>
  <PageFrame :title="invitation ? `${invitation.from} invites you to your plan` : 'An invitation'">
    <v-skeleton-loader v-if="!invitation && !problem" type="text@4, button" />
    <template v-if="invitation">
      <p>
        It is the plan of <strong>{{ invitation.to }}</strong> for
        <strong>{{ invitation.exam }}</strong><template v-if="invitation.examDate"
          >, to be sat on {{ dateWords(invitation.examDate, today) }},
          {{ distanceWords(invitation.examDate, today) }}</template
        >.
      </p>
      <h2>What you will see</h2>
      <ul>
        <li>what is next today, with its pages, and the weeks until the exam;</li>
        <li>your tests and scores, and how likely the score you need is;</li>
        <li>the test room, reviews, cards and pacing, to work with.</li>
      </ul>
      <p>
        What you log there {{ invitation.from }} sees as well. It is your record: from your name at the top
        you can save it as a file.
      </p>
      <div>
        <v-btn v-if="session.signedIn" size="default" class="main" @click="join"
          >Open it as {{ session.user?.name }}</v-btn
        >
        <v-btn v-else size="default" class="main" :to="{ name: 'sign-in', query: { to: route.fullPath } }"
          >Sign in, or make an account, to open it</v-btn
        >
      </div>
      <p class="small soft">
        It holds until {{ dateWords(invitation.expires.slice(0, 10), today) }}, and works once.
      </p>
    </template>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
  </PageFrame>
</template>
