<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { RoomSetup } from '@climber/contract'
import { formOf, partsOf, type Room, type RoomView } from '@climber/core'
import { clockWords, spanWords } from '../../manners/words'
import { Attending, dropRoom } from '../../stores/attending'
import { useSession } from '../../stores/session'
import { useWorkspace } from '../../stores/workspace'
import AfterTest from './AfterTest.vue'
import { announced } from './ready'
import Working from './Working.vue'

/** The test room: from the last word before the clock starts to the marking. */
const route = useRoute()
const router = useRouter()
const workspace = useWorkspace()
const session = useSession()
const candidateId = String(route.params.candidateId)
const roomId = String(route.params.roomId)

const roomOf = (setup: RoomSetup): Room => {
  const exam = workspace.exam!
  const form = formOf(exam, setup)
  return { setup, parts: partsOf(exam, setup, form), ...(form && { form }) }
}
const attending = shallowRef<Attending>()
const loading = ref(true)
const state = computed(() => attending.value?.state.value)
const setup = computed(() => attending.value?.setup.value)
const room = computed(() => (setup.value && workspace.exam ? roomOf(setup.value) : undefined))
const now = computed(() => attending.value?.now.value ?? 0)
const view = shallowRef<RoomView>()

onMounted(async () => {
  document.title = 'Test · Climber'
  await workspace.load(candidateId)
  if (workspace.exam && workspace.candidate?.id === candidateId) {
    const made = new Attending(candidateId, roomId, roomOf, workspace.candidate.role !== 'reader')
    attending.value = made
    await made.load()
  }
  loading.value = false
})
onBeforeUnmount(() => attending.value?.close())
watch(
  [setup, () => workspace.record],
  async ([own]) => {
    if (own && !view.value) view.value = await workspace.ask('roomView', own)
  },
  { immediate: true },
)

const failed = computed(() => workspace.failed || attending.value?.failed.value)
const wall = (secondsAhead: number): string => {
  const at = new Date(Date.now() + secondsAhead * 1000)
  return `${String(at.getHours()).padStart(2, '0')}:${String(at.getMinutes()).padStart(2, '0')}`
}
/** When the bell goes, by the clock on the wall. */
const ends = computed(() => {
  const part = state.value?.parts[state.value.at]
  if (!part || part.bell === Infinity || state.value?.stopped !== undefined) return undefined
  return wall(part.bell - now.value)
})
const nextPart = computed(() => room.value?.parts[state.value?.parts.length ?? 0])
const toBreakEnd = computed(() => Math.max(0, (state.value?.next ?? 0) - now.value))
const stopped = computed(() => state.value?.stopped !== undefined)
const press = (kind: 'begin' | 'pause' | 'resume' | 'away' | 'finish'): void =>
  attending.value?.press({ kind })
const home = () => router.push({ name: 'sit', params: { candidateId } })
async function away(): Promise<void> {
  press('away')
  await home()
}
async function drop(): Promise<void> {
  if (setup.value) await dropRoom(candidateId, setup.value)
  await home()
}
const full = () => void document.documentElement.requestFullscreen?.().catch(() => undefined)
const canFill = 'requestFullscreen' in document.documentElement
const watching = computed(() => Boolean(attending.value && !attending.value.holds.value && setup.value))
const granted = computed(() =>
  workspace.exam?.accommodations?.find(({ id }) => id === setup.value?.accommodation),
)
const jumped = computed(() => attending.value?.jumped.value)
const ready = computed(() => (setup.value && room.value ? announced(room.value) : []))
</script>

<template>
  <div
    class="room"
    data-testid="room"
    :data-phase="state?.phase ?? 'none'"
    :data-kept="!attending?.unkept.value"
  >
    <div v-if="failed" class="sheet stack">
      <h1>This test cannot be opened</h1>
      <p>{{ failed }}</p>
      <p><router-link :to="{ name: 'sit', params: { candidateId } }">Back to the tests</router-link></p>
    </div>
    <div v-else-if="loading || !attending || !state || !room || !setup" class="sheet">
      <v-skeleton-loader type="heading, list-item@4" />
    </div>
    <template v-else>
      <div v-if="watching && state.phase !== 'over'" class="bar" role="alert">
        <span
          >This test is going on on {{ attending.elsewhere.value || 'another page' }}. What is pressed there
          shows here.</span
        >
        <v-btn class="main" @click="attending.carryOn()">Carry it on here</v-btn>
      </div>
      <div v-if="!session.signedIn" class="bar" role="alert">
        <span>You are signed out. What you press is kept on this device; the clock goes on.</span>
        <v-btn class="main" :to="{ name: 'sign-in', query: { to: route.fullPath } }">Sign in again</v-btn>
      </div>
      <div v-if="attending.stuck.value" class="bar" role="alert">
        <span
          >The storage of this device does not take what you press. Do not close this page before the
          end.</span
        >
      </div>
      <div v-if="jumped" class="bar" role="alert">
        <span>The clock of this device ran on by {{ spanWords(jumped / 1000) }} at once. Did it sleep?</span>
        <v-btn class="main" @click="attending.settleJump(true)">It slept: the time is gone</v-btn>
        <v-btn @click="attending.settleJump(false)">Its clock was set</v-btn>
      </div>

      <main v-if="state.phase === 'before'" class="sheet stack ready">
        <h1>{{ room.form?.title ?? setup.title ?? room.parts[0]?.title }}</h1>
        <table class="lines">
          <tbody>
            <tr v-for="part in room.parts" :key="part.id">
              <th scope="row">{{ part.title }}</th>
              <td class="n">{{ part.items(1).length }} items</td>
              <td class="n">
                {{ part.timed ? spanWords(part.seconds) : `untimed, ${spanWords(part.seconds)} suggested` }}
              </td>
              <td class="n">
                {{ part.breakSeconds ? `then a break of ${spanWords(part.breakSeconds)}` : '' }}
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="granted">With {{ granted.title.toLowerCase() }}.</p>
        <ul class="plain">
          <li v-for="line in ready" :key="line">{{ line }}</li>
        </ul>
        <div class="row">
          <v-btn size="x-large" class="main" :disabled="watching" @click="press('begin')"
            >Start the clock</v-btn
          >
          <v-btn v-if="canFill" size="x-large" @click="full">Full screen</v-btn>
          <v-btn size="x-large" variant="text" :disabled="watching" @click="drop">Not now</v-btn>
        </div>
      </main>

      <template v-else-if="state.phase === 'working'">
        <main v-if="stopped" class="sheet stack ready">
          <h1>The clock stands</h1>
          <p>It has stood for {{ clockWords(now - state.stopped!) }}. That is written down with the test.</p>
          <div class="row">
            <v-btn size="x-large" class="main" :disabled="watching" @click="press('resume')">Go on</v-btn>
          </div>
        </main>
        <Working
          v-else
          :inert="watching"
          :attending="attending"
          :room="room"
          :view="view"
          :ends="ends"
          @stop="press('pause')"
          @away="away"
          @finish="press('finish')"
          @drop="drop"
        />
      </template>

      <main v-else-if="state.phase === 'break'" class="sheet stack ready">
        <h1>Break</h1>
        <p class="large big" data-testid="break">{{ clockWords(Math.ceil(toBreakEnd)) }}</p>
        <p>
          {{ nextPart?.title }} begins at {{ wall(toBreakEnd) }}, by itself.
          <template v-if="state.parts[state.at]?.byBell"
            >The bell closed {{ state.parts[state.at]!.part.title }}.</template
          >
        </p>
        <div class="row">
          <v-btn size="x-large" class="main" :disabled="watching" @click="press('begin')">Begin it now</v-btn>
          <v-btn size="x-large" variant="text" :disabled="watching" @click="away">Leave for now</v-btn>
        </div>
      </main>

      <main v-else-if="state.dropped" class="sheet stack ready">
        <h1>This test was thrown away</h1>
        <p><router-link :to="{ name: 'sit', params: { candidateId } }">Back to the tests</router-link></p>
      </main>
      <AfterTest
        v-else
        :room="room"
        :state="state"
        :view="view"
        :holds="attending.holds.value"
        @drop="drop"
      />
    </template>
  </div>
</template>

<style scoped>
.room {
  position: fixed;
  inset: 0;
  z-index: 30;
  background: var(--ground);
  display: grid;
  grid-template-rows: auto;
  grid-auto-rows: minmax(0, 1fr);
  overflow-y: auto;
}
.room > :last-child {
  min-height: 0;
  grid-row: -1;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  padding: 8px 18px;
  background: var(--paper);
  border-bottom: 1px solid var(--clay);
}
.ready {
  width: min(760px, 100%);
  margin: 0 auto;
  align-content: center;
  gap: 18px;
}
.big {
  font-size: 84px;
}
.plain {
  margin: 0;
  padding-left: 1.2em;
}
</style>
