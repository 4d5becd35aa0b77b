<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import type { RecallView } from '@climber/core'
import TextField from '../../kit/TextField.vue'
import { durationWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import AskedHead from '../../widgets/AskedHead.vue'
import FormText from '../../widgets/FormText.vue'
import type { Tried } from '../review/again'
import MissedAsked from '../review/MissedAsked.vue'
import { gradesOf, useAsking } from './asking'

/** One thing at a time: asked, shown, graded; by keys or with a thumb. */
const props = defineProps<{ view: RecallView; minutes: number; session?: string }>()
const emit = defineEmits<{ over: [] }>()
const workspace = useWorkspace()
const asking = useAsking(props.view, props.minutes)
/** A missed item as it was tried, until one goes on. */
const tried = shallowRef<Tried>()
function onFromItem(): void {
  if (tried.value) asking.took(tried.value)
  tried.value = undefined
}
const { card, shown, given, left, spent, look, drawing, foundIn } = asking
const { draw, judged, problem, typed } = drawing
const titles = computed(() => new Map(workspace.exam!.topics.map(({ id, title }) => [id, title])))
const topic = computed(() => titles.value.get(card.value?.topic ?? '') ?? 'No topic')
const kinds = { card: 'card', place: 'where is it', numbers: 'changed numbers', item: 'missed item' } as const
const minutesLeft = computed(() => {
  void look.beat.value
  return Math.max(0, Math.ceil((props.minutes * 60 - spent.value - look.seconds()) / 60))
})
/** As many as the time holds, by what each is expected to take. */
const about = computed(() => {
  let room = props.minutes * 60
  const fit = props.view.queue.filter(({ seconds }) => (room -= seconds) >= 0).length
  return Math.max(given.length + 1, Math.min(left.value.length, fit))
})
const came = computed(() => given.filter(({ grade }) => grade > 1).length)
const cards = computed(() => new Set(given.map((one) => one.card)).size)
const spentMinutes = computed(() => Math.max(1, Math.round(spent.value / 60)))
const planned = computed(() => workspace.plan?.sessions.find(({ id }) => id === props.session))
const lost = computed(() => {
  const last = new Map(given.map((one) => [one.card, one.grade]))
  return [...last.values()].filter((grade) => grade === 1).length
})
async function logged(): Promise<void> {
  if (planned.value)
    await workspace.saveSession(planned.value, { status: 'done', minutesDone: spentMinutes.value })
}

const field = ref<HTMLElement>()
/** The field of the next question is where one types on. */
watch([draw, judged], async () => {
  await nextTick()
  if (draw.value && !judged.value) field.value?.querySelector('input')?.focus({ preventScroll: true })
})
const verdict = computed(() => {
  if (!judged.value) return ''
  if (judged.value.right) return 'Right.'
  return judged.value.slip === undefined ? 'Not right.' : `Not right: ${judged.value.slip}.`
})
const said = computed(() => {
  if (!card.value) return `Over: ${came.value} of ${given.length} came back.`
  if (verdict.value) return `${verdict.value} It is ${draw.value?.answer ?? ''}.`
  if (tried.value) return tried.value.right ? 'Right now.' : 'Missed again.'
  return shown.value ? 'Shown.' : `${given.length + 1}: ${topic.value}, ${kinds[card.value.kind]}.`
})
</script>

<template>
  <section class="stack asking" aria-label="Bring it back">
    <p class="only-reader" role="status" aria-live="polite">{{ said }}</p>
    <template v-if="card">
      <AskedHead :number="given.length + 1" :of="about" :title="topic">
        <template v-if="card.kind === 'item'"
          >item {{ card.item.item }} of {{ card.item.title }}, missed
          {{ card.item.misses === 1 ? 'once' : `${card.item.misses} times` }}</template
        ><template v-else>{{ kinds[card.kind] }}</template>
        <template #beside>
          <span class="small soft left"
            >{{ minutesLeft }} min left<br /><span v-if="card.kind === 'place' && card.seconds && !shown"
              >find it within {{ card.seconds }} s</span
            ></span
          >
        </template>
      </AskedHead>
      <article v-if="card.kind === 'item'" class="stack" :aria-label="`${topic}, ${kinds.item}`">
        <MissedAsked
          :key="`${card.id} ${given.length}`"
          :item="card.item"
          @took="tried = $event"
          @on="onFromItem"
        />
      </article>
      <article
        v-else
        class="stack face"
        :class="{ short: card.kind === 'numbers' }"
        :aria-label="`${topic}, ${kinds[card.kind]}`"
      >
        <img v-if="card.kind === 'card' && card.picture" :src="card.picture" alt="" class="picture" />
        <div class="front" data-testid="front">
          <FormText v-if="card.kind !== 'numbers'" :text="card.front" />
          <FormText v-else-if="draw" :text="draw.text" />
          <p v-else-if="problem" class="bad" role="alert">{{ problem }}</p>
          <v-skeleton-loader v-else type="text@2" />
        </div>
        <div v-if="shown" class="back" data-testid="back">
          <FormText v-if="card.kind === 'card'" :text="card.back" />
          <template v-else-if="card.kind === 'place'">
            <p>
              <strong>{{ card.section }}</strong><template v-if="card.exact">, {{ card.exact }}</template>
            </p>
            <p class="small soft">
              after {{ foundIn.toFixed(0) }} s<template v-if="card.seconds && foundIn > card.seconds"
                >, more than the {{ card.seconds }} that it may take: it counts as hardly there</template
              >
            </p>
          </template>
          <template v-else-if="draw">
            <p>
              <strong :class="judged?.right ? 'good' : 'bad'" data-testid="verdict">{{ verdict }}</strong>
              <template v-if="!judged?.right"> You wrote {{ typed || 'nothing' }}.</template> It is
              <strong>{{ draw.answer }}</strong>.
            </p>
            <FormText v-if="draw.worked" :text="draw.worked" />
          </template>
        </div>
      </article>
      <form
        v-if="card.kind === 'numbers' && draw && !judged"
        ref="field"
        class="row answering"
        novalidate
        @submit.prevent="asking.submit"
      >
        <TextField
          v-model="typed"
          class="answer"
          :label="card.question.unit ? `Answer, in ${card.question.unit}` : 'Answer'"
          :errors="problem || undefined"
        />
        <v-btn type="submit" class="main">{{ typed.trim() ? 'That is it' : 'I do not know' }}</v-btn>
      </form>
      <div v-else-if="card.kind === 'numbers'" class="row deeds">
        <button v-if="judged" type="button" class="press strong" @click="asking.on()">
          <kbd>Enter</kbd> on
        </button>
      </div>
      <template v-else-if="card.kind === 'item'" />
      <div v-else-if="!shown" class="row deeds">
        <button type="button" class="press strong" data-testid="show" @click="asking.show()">
          <kbd>Space</kbd> show
        </button>
      </div>
      <div v-else class="row deeds" role="group" aria-label="How it came back">
        <button
          v-for="[grade, word] in gradesOf[card.kind]"
          :key="grade"
          type="button"
          class="press strong"
          @click="asking.press(grade)"
        >
          <kbd>{{ grade }}</kbd> {{ word }}
        </button>
      </div>
      <footer class="row small aside">
        <button type="button" class="press" :disabled="!given.length" @click="asking.undo()">
          <kbd>u</kbd> undo
        </button>
        <template v-if="card.kind !== 'item'">
          <button type="button" class="press" @click="asking.bury()">not today</button>
          <button type="button" class="press" @click="asking.suspend()">no longer</button>
        </template>
        <button type="button" class="press" @click="asking.ended.value = true"><kbd>Esc</kbd> end</button>
      </footer>
    </template>
    <template v-else>
      <h2>{{ came }} of {{ given.length }} came back</h2>
      <p v-if="given.length">
        {{ cards }} {{ cards === 1 ? 'card' : 'cards' }} in {{ durationWords(spentMinutes)
        }}<template v-if="lost"
          >; {{ lost }} did not come back in the end and {{ lost === 1 ? 'comes' : 'come' }} again
          tomorrow</template
        >.
      </p>
      <p v-else>Nothing was answered.</p>
      <div class="row">
        <v-btn v-if="planned && planned.status !== 'done' && given.length" class="main" @click="logged"
          >The session is done, {{ durationWords(spentMinutes) }}</v-btn
        >
        <span v-else-if="planned?.status === 'done'" class="good"
          >Done, {{ durationWords(planned.minutesDone ?? spentMinutes) }}.</span
        >
        <v-btn v-if="given.length" @click="asking.undo()">Undo the last</v-btn>
        <v-btn data-testid="over" @click="emit('over')">What is left</v-btn>
      </div>
    </template>
  </section>
</template>

<style scoped>
.left {
  margin-left: auto;
  text-align: right;
}
.asking {
  max-width: 760px;
}
.face {
  min-height: 170px;
  font-size: 18px;
}
.face.short {
  min-height: 0;
}
.answering {
  padding-top: 8px;
}
.back {
  border-top: 1px dashed var(--hair);
  padding-top: 12px;
}
.picture {
  max-width: 100%;
  max-height: 320px;
  object-fit: contain;
  justify-self: start;
}
.answer {
  max-width: 280px;
}
.aside {
  border-top: 1px solid var(--hair);
  padding-top: 8px;
}
@media (max-width: 700px) {
  .face {
    min-height: 38vh;
  }
  .face.short {
    min-height: 0;
  }
  .deeds {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(72px, 1fr));
    align-items: stretch;
  }
  .deeds .press {
    min-height: 64px;
    text-align: center;
  }
}
</style>
