<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { StoredSession } from '@climber/contract'
import { isTimed, restOf, satOf, statusOn } from '@climber/core'
import { useSession } from '../stores/session'
import { useWorkspace } from '../stores/workspace'
import { readMinutes } from '../kit/reading'

/** Start, stop, done with its minutes, slipped, skipped; and back again. */
const props = defineProps<{ session: StoredSession }>()
const workspace = useWorkspace()
const account = useSession()
const status = computed(() => statusOn(props.session, workspace.today))
/** What a review takes up, once it was sat. */
const reviewed = computed(() =>
  props.session.kind === 'review' ? satOf(props.session, workspace.record?.attempts ?? []) : undefined,
)
/** Light work that is done with cards. */
const isRecall = computed(
  () => props.session.kind === 'light' && ['cards', 'warm'].includes(props.session.purpose ?? 'cards'),
)
const short = computed(() => props.session.minutes - (props.session.minutesDone ?? props.session.minutes))
/** As it is typed: `50`, or `1 h 30`. */
const minutes = ref('')
const problem = ref('')
const busy = ref(false)

const elapsed = () =>
  props.session.startedAt
    ? Math.max(1, Math.round((Date.parse(account.now()) - Date.parse(props.session.startedAt)) / 60_000))
    : props.session.minutes
/** What was typed stays, also when what was pressed before is confirmed only then. */
let typed = false
watch(
  [() => props.session.id, () => props.session.status],
  ([id, now], [before]) => {
    if (id !== before || now === 'done') typed = false
    problem.value = ''
    if (typed) return
    minutes.value = String(
      props.session.minutesDone ?? (now === 'running' ? Math.min(elapsed(), 600) : props.session.minutes),
    )
  },
  { immediate: true },
)

async function mark(change: Parameters<typeof workspace.saveSession>[1]): Promise<void> {
  busy.value = true
  problem.value = ''
  try {
    await workspace.saveSession(props.session, change)
  } catch (error) {
    problem.value = (error as Error).message
  }
  busy.value = false
}
const feelings = ['easy', 'right', 'hard', 'lost'] as const
function done(): void {
  const spent = readMinutes(minutes.value)
  if (spent === undefined || spent < 1 || spent > 1440) {
    problem.value = 'Write how many minutes it took, from 1 to 1440.'
    return
  }
  void mark({
    status: 'done',
    minutesDone: spent,
    startedAt: props.session.startedAt,
    restMinutes: undefined,
  })
}
</script>

<template>
  <div class="stack actions">
    <template v-if="status === 'done'">
      <div class="row">
        <span class="good">Done, {{ session.minutesDone ?? session.minutes }} minutes.</span>
        <v-btn
          :disabled="busy"
          @click="
            mark({
              status: 'planned',
              minutesDone: undefined,
              startedAt: undefined,
              feeling: undefined,
              restMinutes: undefined,
            })
          "
          >Not done after all</v-btn
        >
      </div>
      <div class="row small" role="group" :aria-label="`How ${workspace.titleOf(session)} went`">
        <span class="soft">It went</span>
        <button
          v-for="word in feelings"
          :key="word"
          type="button"
          class="chip"
          :aria-pressed="session.feeling === word"
          :disabled="busy"
          @click="mark({ feeling: session.feeling === word ? undefined : word })"
        >
          {{ word }}
        </button>
      </div>
      <div v-if="short > 4" class="row small">
        <span class="soft">{{ short }} minutes short of the plan.</span>
        <template v-if="restOf(session)">
          <button
            type="button"
            class="chip"
            :aria-pressed="session.restMinutes !== undefined"
            :disabled="busy"
            @click="mark({ restMinutes: session.restMinutes === undefined ? restOf(session) : undefined })"
          >
            The rest another day
          </button>
          <span v-if="session.restMinutes !== undefined" class="soft"
            >A re-plan finds a place for {{ session.restMinutes }} minutes.</span
          >
        </template>
      </div>
    </template>
    <template v-else>
      <div class="row">
        <v-btn
          v-if="isTimed(session)"
          class="main"
          :to="{
            name: 'sit',
            params: { candidateId: workspace.candidate!.id },
            query: { session: session.id },
          }"
          >Sit it here</v-btn
        >
        <v-btn
          v-if="reviewed"
          class="main"
          :to="{
            name: 'review',
            params: { candidateId: workspace.candidate!.id, attemptId: reviewed.id },
          }"
          >Review it here</v-btn
        >
        <v-btn
          v-if="session.kind === 'retest'"
          class="main"
          :to="{
            name: 'review-again',
            params: { candidateId: workspace.candidate!.id },
            query: { session: session.id },
          }"
          >Try again here</v-btn
        >
        <v-btn
          v-if="isRecall"
          class="main"
          :to="{
            name: 'recall',
            params: { candidateId: workspace.candidate!.id },
            query: { minutes: session.minutes, session: session.id },
          }"
          >Bring it back here</v-btn
        >
        <v-btn
          v-if="status !== 'running'"
          :disabled="busy"
          @click="mark({ status: 'running', startedAt: account.now() })"
          >Start</v-btn
        >
        <span class="minutes">
          <v-text-field
            suffix="min"
            inputmode="numeric"
            autocomplete="off"
            :aria-label="`Minutes spent on ${workspace.titleOf(session)}`"
            :model-value="minutes"
            @update:model-value="((typed = true), (minutes = $event))"
          />
        </span>
        <v-btn class="main" :disabled="busy" @click="done">{{
          status === 'running' ? 'Stop: done' : 'Done'
        }}</v-btn>
        <v-btn
          v-if="status === 'running'"
          :disabled="busy"
          @click="mark({ status: 'planned', startedAt: undefined })"
          >Not after all</v-btn
        >
        <v-btn v-if="status !== 'slipped'" :disabled="busy" @click="mark({ status: 'slipped' })"
          >Slipped</v-btn
        >
        <v-btn v-if="session.status !== 'skipped'" :disabled="busy" @click="mark({ status: 'skipped' })"
          >Skip</v-btn
        >
        <v-btn
          v-if="session.status === 'slipped' || session.status === 'skipped'"
          :disabled="busy"
          @click="mark({ status: 'planned' })"
          >Planned again</v-btn
        >
      </div>
    </template>
    <p v-if="problem" class="bad small" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.minutes {
  width: 92px;
}
</style>
