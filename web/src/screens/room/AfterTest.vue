<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import type { ItemResponse } from '@climber/contract'
import {
  afterTheBell,
  attemptOf,
  examSat,
  hasKeys,
  keyOf,
  readItemList,
  responsesOf,
  type Room,
  type RoomState,
  type RoomView,
} from '@climber/core'
import ProblemList from '../../kit/ProblemList.vue'
import type { Problem } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'
import { outbox } from '../../outbox/here'
import { useWorkspace } from '../../stores/workspace'
import ItemGrid from '../../widgets/ItemGrid.vue'
import { plain } from '../../workers/core'
import ByCriteria from './ByCriteria.vue'
import Result from './Result.vue'

/** The test is over: it is marked from the key at once, or by hand first. */
const props = defineProps<{ room: Room; state: RoomState; view?: RoomView; holds: boolean }>()
const emit = defineEmits<{ drop: [] }>()
const workspace = useWorkspace()
const id = computed(() => props.room.setup.id)
const draftKey = computed(() => `climber.draft.${workspace.candidate!.id}.room.${id.value}`)
const exam = computed(() => examSat(workspace.exam!, props.room, props.state))
const attempt = computed(() => workspace.attempts.find((one) => one.id === id.value))
const items = computed(() => props.state.parts.flatMap((part) => part.items))
/** Nothing of it needs a person: every answer was given here, and has a key. */
const byKey = computed(
  () =>
    props.room.setup.medium === 'screen' &&
    items.value.every(
      (item) => item.group.kind !== 'written' && (!item.answer || keyOf(props.room.form, item) !== undefined),
    ),
)
/** Something of it is marked from a key. */
const byMachine = computed(() => items.value.some(({ group }) => group.kind !== 'written'))
const known = computed(() => hasKeys(items.value, props.room.form))

function draft(): ItemResponse[] {
  try {
    const text = localStorage.getItem(draftKey.value)
    if (text) return JSON.parse(text) as ItemResponse[]
  } catch {
    // What cannot be read is begun anew.
  }
  const kept = attempt.value?.items
  return kept ? plain(kept) : responsesOf(props.room, props.state)
}
const responses = shallowRef<ItemResponse[]>(draft())
watch(responses, (now) => localStorage.setItem(draftKey.value, JSON.stringify(now)))
/** Items answered after the bell, as they are listed; on a screen the room knows them. */
const lateKey = computed(() => `${draftKey.value}.late`)
const lateText = ref(localStorage.getItem(lateKey.value) ?? '')
watch(lateText, (now) => localStorage.setItem(lateKey.value, now))
const late = computed(() =>
  readItemList(lateText.value, (item) => items.value.some((one) => one.item === item)),
)
const again = ref(false)
const problems = ref<Problem[]>([])
const busy = ref(false)
/** What was forecast before this test was known. */
const before = shallowRef(workspace.overview?.odds)
watch(
  () => workspace.overview,
  (now) => {
    if (!attempt.value) before.value = now?.odds
  },
)
const unkeyed = computed(() =>
  items.value.filter(({ item, group }) => {
    const own = responses.value.find((one) => one.item === item)
    return group.kind !== 'written' && own?.answer && !own.key && own.right === undefined
  }),
)

async function mark(): Promise<void> {
  problems.value = []
  // What was pressed elsewhere may have come since.
  if (byKey.value && !again.value) responses.value = responsesOf(props.room, props.state)
  if (late.value.problem) {
    problems.value = [{ field: 'late', message: late.value.problem }]
    return
  }
  if (unkeyed.value.length) {
    const [first] = unkeyed.value
    problems.value = [
      {
        field: 'items',
        message: `${unkeyed.value.length === 1 ? 'One answer has' : `${unkeyed.value.length} answers have`} no key; the first is item ${first!.item}. Paste the key of its section.`,
      },
    ]
    return
  }
  busy.value = true
  const made = plain(
    attemptOf(workspace.exam!, props.room, props.state, afterTheBell(responses.value, late.value.items)),
  )
  const entry = await workspace.saveAttempt(made, attempt.value?.version ?? 0)
  const outcome = await outbox().outcome(entry)
  busy.value = false
  if (outcome !== 'waiting' && 'failure' in outcome) {
    await outbox().drop(entry.lane)
    problems.value = outcome.failure.issues ?? [{ field: '', message: outcome.failure.message }]
    return
  }
  localStorage.removeItem(draftKey.value)
  localStorage.removeItem(lateKey.value)
  again.value = false
}
// Whoever carried it on knows all of it; others may lack what is still on its way, and mark it only when asked to.
watch(
  () => props.holds && byKey.value && !attempt.value && !again.value,
  (wanted) => wanted && void nextTick(mark),
  { immediate: true },
)
</script>

<template>
  <main class="sheet stack after" data-testid="after">
    <template v-if="attempt && !again">
      <Result
        :attempt="attempt"
        :room="room"
        :state="state"
        :view="view"
        :before="before"
        @again="again = true"
      />
    </template>
    <template v-else-if="byKey && !again && !problems.length">
      <p v-if="holds" role="status">Marking…</p>
      <template v-else>
        <h1>It is over</h1>
        <p>
          It is marked where it was sat, as soon as that device is heard. Here it is marked with what is known
          by now.
        </p>
        <div class="row">
          <v-btn size="large" class="main" :loading="busy" @click="mark">Mark it here</v-btn>
          <v-btn @click="emit('drop')">Throw it away</v-btn>
        </div>
      </template>
    </template>
    <template v-else>
      <h1>Mark it</h1>
      <p>
        <template v-if="room.setup.medium === 'paper'">Type the answers from the paper. </template>
        <template v-if="byMachine && known">The key of this form is known.</template>
        <template v-else-if="byMachine"
          >No key of this form is known: paste it below, a line for each section.</template
        >
        What you type stays on this device until it is kept.
      </p>
      <ByCriteria v-model="responses" :exam="exam" :form="room.form" />
      <h2>Answers</h2>
      <ItemGrid v-model="responses" :exam="exam" :form="room.form" />
      <TextField
        v-if="room.setup.medium === 'paper'"
        v-model="lateText"
        class="late"
        label="Items answered after the bell"
        optional
        hint="Such as 38 39, 41-43: they are kept apart and do not count"
        :errors="late.problem"
      />
      <ProblemList :problems="problems.filter(({ field }) => field !== 'late')" />
      <div class="row">
        <v-btn size="large" class="main" :loading="busy" @click="mark">Mark it and keep it</v-btn>
        <router-link :to="{ name: 'sit', params: { candidateId: workspace.candidate!.id } }"
          >Mark it later</router-link
        >
        <v-btn v-if="!attempt" variant="text" @click="emit('drop')">Throw it away</v-btn>
      </div>
    </template>
  </main>
</template>

<style scoped>
.late {
  max-width: 420px;
}
.after {
  width: min(1100px, 100%);
  margin: 0 auto;
}
</style>
