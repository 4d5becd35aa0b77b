<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { causeTitle, placesOf, type ReviewView } from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import TextField from '../../kit/TextField.vue'
import { saidBeside } from '../../manners/saidBeside'
import { dateWords, rawWords } from '../../manners/words'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import AskedItem from '../../widgets/AskedItem.vue'
import CommentList from '../../widgets/CommentList.vue'
import StimulusText from '../../widgets/StimulusText.vue'
import { useCardOf } from './cardOf'
import DoubtKeys from './DoubtKeys.vue'
import { againWords, bothTimes, lookWords, placeWords, remedyWords, timeWords } from './sayings'
import type { Reviewing } from './working'

/** One item of a review: tried again first, its answer hidden; then both answers and the key side by side, and the cause. */
const props = defineProps<{ view: ReviewView; reviewing: Reviewing }>()
const workspace = useWorkspace()
const recall = useRecall()
const { item, note, text, stimulus, letters, form, hidden, struck, doubt, causes, likely, right } =
  props.reviewing
const { made, loose, make } = useCardOf(item, text, stimulus, () => props.view.title)
const nextField = ref<HTMLElement>()
const typed = ref('')
const next = ref('')
const more = ref('')
watch(
  () => [item.value?.item, note.value?.next, note.value?.text] as const,
  ([number], before) => {
    if (before?.[0] !== number) typed.value = ''
    if (document.activeElement?.closest('.write') && before?.[0] === number) return
    next.value = note.value?.next ?? ''
    more.value = note.value?.text ?? ''
  },
  { immediate: true },
)
const topic = computed(() => workspace.exam!.topics.find(({ id }) => id === item.value?.topic)?.title)
const section = computed(() => workspace.exam!.sections.find(({ id }) => id === item.value?.section)?.title)
const places = computed(() =>
  item.value?.topic === undefined || !workspace.record
    ? []
    : placesOf(workspace.exam!, workspace.record.materials, item.value.topic),
)
const topics = computed(() => [
  { value: '', title: 'not said' },
  ...workspace.exam!.topics.map(({ id, title }) => ({ value: id, title })),
])
/** The key, the answer of the day and the one now, by option. */
const said = computed(() =>
  hidden.value || !item.value
    ? undefined
    : saidBeside([item.value.key, 'key'], [item.value.answer, 'then'], [note.value?.rework?.answer, 'now']),
)
/** What was answered; of a written answer the marks that it earned. */
const answered = computed(() => {
  const { answer, kind, marks, lost } = item.value!
  if (!answer) return 'no answer'
  return kind === 'written' ? `${rawWords(marks - lost)} of ${rawWords(marks)} marks` : answer
})
const shownStruck = computed(() => (hidden.value ? struck : new Set(note.value?.rework?.struck ?? [])))
const way = computed(() => props.view.way.mistakes)
const named = computed(() => note.value?.cause ?? likely.value)
/** Item, topic and place, where its text is not there. */
const bare = computed(() => !text.value?.text)
function submit(): void {
  if (hidden.value) props.reviewing.answer(typed.value.trim())
}
const keep = (field: 'next' | 'text', value: string): void =>
  props.reviewing.write({ [field]: value.trim() || null })
const fresh = () => crypto.randomUUID()
/** Whoever works in this record keeps it tidy. */
const mayTakeBack = () => true
defineExpose({
  focusNext: () => nextField.value?.querySelector('input')?.focus(),
  makeCard: () => void make(),
})
</script>

<template>
  <article v-if="item" class="work" :class="{ beside: stimulus }" :aria-label="`Item ${item.item}`">
    <p class="only-reader" role="status" aria-live="polite">
      {{ reviewing.told.value }}Item {{ item.item }}{{ hidden ? ', the answer is hidden' : '' }}
    </p>
    <header class="head">
      <span class="large number">{{ item.item }}</span>
      <span
        ><strong>{{ topic ?? 'No topic yet' }}</strong
        ><br /><span class="small soft"
          >{{ section }}; {{ item.why.map((why) => lookWords[why]).join(', ') }}</span
        ></span
      >
      <span v-if="item.again.length" class="small" :class="item.again.at(-1)!.right ? 'good' : 'bad'">{{
        againWords(item, (date) => dateWords(date, workspace.today))
      }}</span>
    </header>

    <StimulusText v-if="stimulus" :stimulus="stimulus" :pictures="form?.pictures" />
    <section class="asked stack">
      <p v-if="bare" class="small soft">
        Item {{ item.item }} of {{ view.title
        }}<template v-if="places[0]">; {{ places.map(placeWords).join('; ') }}</template>
      </p>
      <AskedItem
        :text="text"
        :pictures="form?.pictures"
        :letters="letters"
        :chosen="hidden ? undefined : item.key.toUpperCase()"
        :struck="shownStruck"
        :said="said"
        @answer="reviewing.answer"
        @strike="reviewing.strike"
      />
      <form v-if="item.kind === 'numeric' && hidden" class="row" novalidate @submit.prevent="submit">
        <TextField v-model="typed" class="answer" label="Answer" />
        <v-btn type="submit" class="main">That is it</v-btn>
      </form>
      <p v-if="item.kind === 'written' && hidden" class="soft">
        Write it on paper; then look what earns the marks.
      </p>
      <ul v-if="!hidden && text?.criteria?.length" class="small">
        <li v-for="one in text.criteria" :key="one.text">{{ one.marks }}: {{ one.text }}</li>
      </ul>
    </section>

    <div v-if="hidden" class="row deeds">
      <DoubtKeys :doubt="doubt" @mark="reviewing.mark" />
      <button type="button" class="press away" data-testid="look" @click="reviewing.look()">
        <kbd>Enter</kbd> show the answer
      </button>
      <span v-if="letters.length" class="small soft wide"
        >A letter answers; with Shift it strikes out. No clock.</span
      >
    </div>

    <section v-else class="stack found">
      <table class="lines answers">
        <tbody>
          <tr>
            <th scope="row">Against the clock</th>
            <td>
              <strong>{{ answered }}</strong>
              <span class="soft small">
                {{
                  [
                    item.outcome,
                    item.confidence,
                    timeWords(item),
                    item.changes.length ? item.changes.join(' → ') : '',
                  ]
                    .filter(Boolean)
                    .join('; ')
                }}</span
              >
            </td>
          </tr>
          <tr>
            <th scope="row">Without it</th>
            <td>
              <strong>{{ note?.rework ? note.rework.answer || 'no answer' : 'not tried' }}</strong>
              <span class="soft small">{{ note?.rework?.confidence }} </span>
              <button type="button" class="link small" @click="reviewing.again()">try it again</button>
            </td>
          </tr>
          <tr>
            <th scope="row">Key</th>
            <td>
              <strong>{{ item.key || 'not known' }}</strong>
              <span
                v-if="right === undefined && (note?.rework || item.kind === 'written')"
                class="row verdict"
              >
                <button type="button" class="chip" @click="reviewing.judge(true)">it came out right</button>
                <button type="button" class="chip" @click="reviewing.judge(false)">it did not</button>
              </span>
              <span class="small" data-testid="both"> {{ bothTimes(item, right) }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <ChoiceField
        v-if="!item.topic || note?.topic"
        class="topic"
        label="Topic"
        :options="topics"
        :model-value="note?.topic ?? ''"
        @update:model-value="reviewing.write({ topic: $event || null })"
      />
      <div class="causes" role="group" aria-label="Cause">
        <button
          v-for="(cause, place) in causes"
          :key="cause"
          type="button"
          class="press"
          :class="{ likely: !note?.cause && likely === cause }"
          :aria-pressed="note?.cause === cause"
          @click="reviewing.name(cause)"
        >
          <kbd>{{ place + 1 }}</kbd> {{ causeTitle(cause, way) }}
        </button>
      </div>
      <p class="small remedy" data-testid="remedy">
        <template v-if="named"
          >{{ !note?.cause && likely ? 'The facts speak for the one marked. ' : ''
          }}{{ remedyWords[named] }}</template
        >
      </p>
      <div ref="nextField" class="write">
        <TextField
          v-model="next"
          label="Next time I …"
          hint="n writes here; may stay empty"
          @blur="keep('next', next)"
          @keydown.enter.prevent="($event.target as HTMLElement).blur()"
        />
        <TextField
          v-if="way === 'full note' || more"
          v-model="more"
          label="Note"
          :lines="2"
          @blur="keep('text', more)"
        />
      </div>
      <div class="row deeds">
        <button type="button" class="press" aria-label="The item before" @click="reviewing.beside(-1)">
          ←
        </button>
        <router-link
          v-if="made"
          class="small made"
          :to="{ name: 'recall', query: { part: 'cards', card: made.id } }"
          >its card</router-link
        >
        <button v-else-if="recall.mayWork" type="button" class="press" data-testid="card" @click="make">
          <kbd>k</kbd> {{ loose ? 'other numbers' : 'a card of it' }}
        </button>
        <button type="button" class="press strong" data-testid="on" @click="reviewing.on()">
          <kbd>Enter</kbd> {{ !note?.cause && likely ? 'keep that, and on' : 'on' }}
        </button>
      </div>
      <CommentList
        :comments="note?.comments ?? []"
        :today="workspace.today"
        :mine="mayTakeBack"
        @say="workspace.commentItem(view.id, item.item, fresh(), $event)"
        @take="workspace.commentItem(view.id, item.item, $event, null)"
      />
    </section>
  </article>
</template>

<style scoped>
.work {
  display: grid;
  gap: 12px;
  align-content: start;
  grid-template-columns: minmax(0, 1fr);
}
.head {
  display: flex;
  gap: 14px;
  align-items: center;
  border-bottom: 1px solid var(--hair);
  padding-bottom: 8px;
}
.number {
  font-size: 40px;
  min-width: 54px;
}
.head > :last-child:not(:nth-child(2)) {
  margin-left: auto;
}
.asked {
  max-width: 46em;
}
.answer,
.topic {
  max-width: 280px;
}
.deeds {
  gap: 8px;
}
.press.likely {
  border: 1px dashed var(--ink);
}
.causes {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 6px;
}
.answers th {
  width: 150px;
  color: var(--ink);
  font-weight: 400;
}
.answers td > * + * {
  margin-left: 8px;
}
.remedy {
  min-height: 1.4em;
}
.verdict {
  display: inline-flex;
  gap: 0;
}
.write {
  max-width: 46em;
}
@media (max-width: 700px) {
  .deeds .press {
    flex: 1;
    min-height: 48px;
  }
  .causes {
    grid-template-columns: 1fr 1fr;
  }
  .causes .press {
    min-height: 46px;
  }
  .wide {
    display: none;
  }
  .answers th {
    width: 104px;
  }
}
</style>
