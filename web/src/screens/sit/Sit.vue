<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { RoomSetup } from '@climber/contract'
import { attemptTitle, materialOf, type RoomView, timeOf } from '@climber/core'
import { call } from '../../api'
import ChoiceField from '../../kit/ChoiceField.vue'
import ChoicesField from '../../kit/ChoicesField.vue'
import NumberField from '../../kit/NumberField.vue'
import { byField } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'
import { newestOnly } from '../../manners/newest'
import { dateWords, durationWords, rangeWords, spanWords } from '../../manners/words'
import { outbox } from '../../outbox/here'
import { presses } from '../../outbox/presses'
import { dropRoom, keepRoom, openRoom, thrownAway } from '../../stores/attending'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import { useChoice } from './choosing'
import { vCards } from '../../kit/cards'

/** Before a test: what is sat, how, and what to expect of it. */
const route = useRoute()
const router = useRouter()
const workspace = useWorkspace()
const candidateId = computed(() => workspace.candidate!.id)
const wanted = () => (typeof route.query.session === 'string' ? route.query.session : undefined)
const { choice, due, offered, forms, parts, problems, itemsIn, setup, hasText, hasKey, isSession } =
  useChoice(wanted)
const fields = computed(() => byField(problems.value))

const view = shallowRef<RoomView>()
const look = newestOnly(async () => {
  if (!parts.value.length) return
  const found = await workspace.ask('roomView', plain(setup()))
  if (found) view.value = found
})
watch([parts, () => choice.form, () => workspace.record], () => void look(), { immediate: true })

/** Tests that go on, or wait to be marked. */
interface Standing {
  setup: RoomSetup
  stands: 'open' | 'over'
}
const standing = ref<Standing[]>([])
async function findStanding(): Promise<void> {
  const kept = (await (await presses()).rooms()).filter(
    (room) => room.candidateId === candidateId.value && room.user === outbox().user,
  )
  const found = new Map<string, Standing>()
  const dropped = new Set(kept.filter(({ stands }) => stands === 'dropped').map((room) => room.setup.id))
  for (const { setup: own, stands } of kept)
    if (stands !== 'dropped') found.set(own.id, { setup: own, stands })
  try {
    for (const { setup: own, stands } of await call(
      'listRooms',
      { candidateId: candidateId.value },
      undefined,
      4000,
    ))
      // What is over stays over: the server may hear of the end only now.
      if (stands !== 'dropped')
        found.set(own.id, { setup: own, stands: found.get(own.id)?.stands === 'over' ? 'over' : stands })
  } catch {
    // What this device knows is enough to go on.
  }
  standing.value = [...found.values()]
    .filter((room) => !dropped.has(room.setup.id))
    .sort((a, b) => `${b.setup.date} ${b.setup.start}`.localeCompare(`${a.setup.date} ${a.setup.start}`))
}
onMounted(findStanding)
async function drop(of: RoomSetup): Promise<void> {
  await dropRoom(candidateId.value, of)
  standing.value = standing.value.filter((room) => room.setup.id !== of.id)
}
async function takeBack(): Promise<void> {
  await keepRoom()
  await findStanding()
}
const gone = computed(() =>
  thrownAway.value?.candidateId === candidateId.value ? thrownAway.value.setup : undefined,
)
const open = computed(() =>
  standing.value.filter((room) => !workspace.attempts.some(({ id }) => id === room.setup.id)),
)
const nameOf = (of: RoomSetup) =>
  attemptTitle(workspace.exam!, { kind: of.set ? 'set' : of.whole ? 'practice' : 'section', ...of })
const partTitle = (id: string) =>
  workspace.exam!.sections.find((one) => one.id === id)?.title ?? 'Set of items'

const ends = computed(() => {
  const seconds = parts.value.reduce((sum, part) => sum + part.seconds + part.breakSeconds, 0)
  return timeOf(Math.round(workspace.now.minute + seconds / 60) % 1440)
})
const granted = computed(() =>
  workspace.exam!.accommodations?.find(({ id }) => id === workspace.record?.settings.accommodation),
)
const topicOptions = computed(() => workspace.exam!.topics.map(({ id, title }) => ({ value: id, title })))
const conditionNames = {
  examHour: "at the exam's own hour",
  alone: 'alone',
  noise: 'with noise',
  tired: 'tired',
} as const
const problem = ref('')
const busy = ref(false)
async function begin(): Promise<void> {
  if (problems.value.length || busy.value) return
  busy.value = true
  problem.value = ''
  try {
    const made = plain(setup())
    await openRoom(candidateId.value, made)
    await router.push({ name: 'room', params: { candidateId: candidateId.value, roomId: made.id } })
  } catch (error) {
    problem.value = (error as Error).message
  }
  busy.value = false
}
</script>

<template>
  <div class="sheet sit">
    <p v-if="gone" role="status" class="standing">
      {{ nameOf(gone) }}, opened {{ gone.start }}, is thrown away. <v-btn @click="takeBack">Undo</v-btn>
    </p>
    <section v-if="open.length" class="stack standing" aria-label="Tests under way">
      <h2>Under way</h2>
      <div v-for="room in open" :key="room.setup.id" class="row">
        <span
          ><strong>{{ nameOf(room.setup) }}</strong>
          <span class="soft">
            opened {{ dateWords(room.setup.date, workspace.today) }}, {{ room.setup.start }}</span
          ></span
        >
        <v-btn class="main" :to="{ name: 'room', params: { candidateId, roomId: room.setup.id } }">{{
          room.stands === 'over' ? 'Mark it' : 'Go on'
        }}</v-btn>
        <v-btn
          variant="text"
          :aria-label="`Throw away ${nameOf(room.setup)} of ${room.setup.start}`"
          @click="drop(room.setup)"
          >Throw it away</v-btn
        >
      </div>
    </section>
    <form class="stack" novalidate @submit.prevent="begin">
      <h1>Sit a test</h1>
      <p v-if="due" class="small">
        Planned: {{ workspace.titleOf(due) }}, {{ dateWords(due.date, workspace.today)
        }}<template v-if="!isSession">; what is chosen below is another test, and it stays planned</template>.
      </p>
      <p v-if="due && isSession && materialOf(due)" class="small">{{ materialOf(due)!.text }}.</p>
      <div class="fields">
        <ChoiceField v-model="choice.what" class="wide" label="What" :options="offered" />
        <ChoiceField
          v-if="choice.what !== 'set'"
          v-model="choice.form"
          class="wide"
          label="Paper"
          :options="forms"
        />
        <TextField
          v-if="choice.what === 'set' || !choice.form"
          v-model="choice.title"
          label="Its name"
          optional
        />
      </div>
      <div v-if="choice.what === 'set'" class="stack">
        <NumberField
          v-model="choice.items"
          class="count"
          label="How many"
          unit="items"
          whole
          :min="5"
          :max="60"
          :errors="fields.at('items')"
        />
        <ChoicesField
          v-model="choice.topics"
          label="Topics"
          :options="topicOptions"
          :errors="fields.at('topics')"
        />
      </div>
      <template v-else>
        <div class="row">
          <span class="rating" role="group" aria-label="On paper or on screen">
            <button
              type="button"
              :aria-pressed="choice.medium === 'screen'"
              @click="choice.medium = 'screen'"
            >
              on screen
            </button>
            <button type="button" :aria-pressed="choice.medium === 'paper'" @click="choice.medium = 'paper'">
              on paper
            </button>
          </span>
          <span class="small soft">{{
            choice.medium === 'paper'
              ? 'You work on your own paper; the clock and the rail are here.'
              : choice.form && hasText(choice.form)
                ? 'The items are shown here.'
                : 'The text of this paper is not here: only its answer sheet is shown.'
          }}</span>
        </div>
      </template>
      <div v-if="choice.medium === 'paper' || choice.what === 'set'" class="row">
        <span class="rating" role="group" aria-label="What is pressed">
          <button
            type="button"
            :aria-pressed="choice.pressing === 'items'"
            @click="choice.pressing = 'items'"
          >
            a press for each item
          </button>
          <button
            type="button"
            :aria-pressed="choice.pressing === 'checkpoints'"
            @click="choice.pressing = 'checkpoints'"
          >
            only at checkpoints
          </button>
        </span>
        <span class="small soft">{{
          choice.pressing === 'items'
            ? 'Seconds of every item are known afterwards.'
            : 'Less to press; only the checkpoints are known.'
        }}</span>
      </div>
      <fieldset class="plain">
        <legend class="small soft">Conditions</legend>
        <div class="row">
          <v-checkbox
            v-model="choice.strict"
            label="the clock cannot be stopped"
            density="compact"
            hide-details
          />
          <v-checkbox
            v-for="(title, name) in conditionNames"
            :key="name"
            v-model="choice.conditions[name]"
            :label="title"
            density="compact"
            hide-details
          />
          <v-checkbox v-model="choice.sound" label="sounds" density="compact" hide-details />
        </div>
        <TextField v-model="choice.conditions.note" label="Note on the day" optional />
      </fieldset>
      <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
      <div>
        <v-btn type="submit" size="large" class="main" :disabled="problems.length > 0 || busy"
          >Enter the room</v-btn
        >
      </div>
    </form>
    <aside class="stack beside" aria-label="What comes">
      <h2>What comes</h2>
      <table v-cards class="lines as-cards small">
        <tbody>
          <template v-for="part in parts" :key="part.id">
            <tr>
              <th scope="row">{{ partTitle(part.id) }}</th>
              <td class="n">{{ itemsIn(part.id) }} items</td>
              <td class="n">{{ part.timed ? '' : 'about ' }}{{ spanWords(part.seconds) }}</td>
            </tr>
            <tr v-if="part.breakSeconds" class="soft">
              <td>Break</td>
              <td></td>
              <td class="n">{{ durationWords(part.breakSeconds / 60) }}</td>
            </tr>
          </template>
        </tbody>
      </table>
      <p v-if="parts.length" class="small">Begun now, it ends at {{ ends }}.</p>
      <p v-if="granted" class="small">With {{ granted.title.toLowerCase() }}.</p>
      <template v-if="view?.composite || view?.sections.length">
        <h2 class="mt-2">What to expect</h2>
        <p v-if="view.composite" data-testid="expect">
          <strong class="large figure">{{ Math.round(view.composite.mean) }}</strong>
          <span class="soft"> 8 times in 10 from {{ rangeWords(view.composite) }}</span>
        </p>
        <table v-if="view.sections.length" class="lines small">
          <tbody>
            <tr v-for="one in view.sections" :key="one.section">
              <th scope="row">{{ partTitle(one.section) }}</th>
              <td class="n">{{ rangeWords(one) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="view.composite" class="small">
          Below {{ Math.round(view.composite.low) }} or above {{ Math.round(view.composite.high) }} the plan
          rests on something that is not so: make it again then.
        </p>
      </template>
      <p v-if="choice.form && choice.what !== 'set'" class="small soft">
        {{
          hasKey(choice.form)
            ? 'It is marked by itself, from the key of the form.'
            : 'No key of this paper is here: you paste it afterwards.'
        }}
      </p>
    </aside>
  </div>
</template>

<style scoped>
.sit {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 18px 34px;
  align-items: start;
}
.standing {
  grid-column: 1 / -1;
  border-left: 3px solid var(--ochre);
  padding-left: 14px;
}
.beside {
  border-left: 1px solid var(--hair);
  padding-left: 24px;
}
.figure {
  font-size: 40px;
}
.wide {
  width: min(340px, 100%);
  flex: none;
}
.count {
  max-width: 180px;
}
.plain {
  border: 0;
  margin: 0;
  padding: 0;
}
@media (max-width: 900px) {
  .sit {
    grid-template-columns: minmax(0, 1fr);
  }
  .beside {
    border-left: 0;
    border-top: 1px solid var(--ink);
    padding: 14px 0 0;
  }
}
</style>
