<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import type { Card, StoredCard } from '@climber/contract'
import { dateOf, dayNumber } from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import FileField from '../../kit/FileField.vue'
import NumberField from '../../kit/NumberField.vue'
import ProblemList from '../../kit/ProblemList.vue'
import { byField, type Problem } from '../../kit/problems'
import TextField from '../../kit/TextField.vue'
import { smallPicture } from '../../manners/smallPicture'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import { numbers } from '../../workers/numbers'
import { blankDraft, type CardDraft, cardOf, draftOf, forgetDraft, keepDraft, keptDraft } from './draft'
import NotStaying from './NotStaying.vue'
import NumbersFields from './NumbersFields.vue'
import { frontOf, kindTitles } from './sayings'

/** One card being written, or written anew; at speed, one after the other. */
const props = defineProps<{
  card?: StoredCard
  topic?: string
  /** As often a card that does not stay was forgotten: it is looked at for that. */
  lapses?: number
}>()
const emit = defineEmits<{ done: []; next: [] }>()
const workspace = useWorkspace()
const recall = useRecall()
const id = workspace.candidate!.id
/** What was typed of a new card is there again after a closed tab. */
const begun = (): CardDraft =>
  props.card ? draftOf(plain(props.card)) : (keptDraft(id) ?? blankDraft('card', props.topic ?? ''))
const draft = ref(begun())
const tried = ref(false)
const refused = shallowRef<Problem[]>([])
watch(
  draft,
  (now) => {
    refused.value = []
    if (!props.card) keepDraft(id, now)
  },
  { deep: true },
)
const read = computed(() => cardOf(draft.value))
const problems = computed<Problem[]>(() => [
  ...(tried.value && 'problems' in read.value ? read.value.problems : []),
  ...refused.value,
])
const fields = computed(() => byField(problems.value))
const inQuestion = computed(() => byField(problems.value, 'question'))
const kinds = Object.entries(kindTitles).map(([value, title]) => ({ value: value as Card['kind'], title }))
const topics = computed(() => [
  { value: '', title: 'No topic' },
  ...workspace.exam!.topics.map(({ id, title }) => ({ value: id, title })),
])
const front = ref<HTMLElement>()
const said = ref('')
const pictureProblem = ref('')

const why = ref<NonNullable<Card['looked']>['why']>()
/** Days that a card rests which was never understood: there is something to read first. */
const restDays = 3
/** What was found of a card that does not stay goes with it. */
function lookedAt(card: Card): Card {
  if (props.lapses === undefined) return card
  return {
    ...card,
    looked: { on: workspace.today, lapses: props.lapses, ...(why.value && { why: why.value }) },
    ...(why.value === 'not needed' && { suspended: true }),
    ...(why.value === 'never understood' && { rests: dateOf(dayNumber(workspace.today) + restDays) }),
  }
}
/** Formulas are read where they cannot hang the page. */
async function unsound(card: Card): Promise<Problem[]> {
  if (card.kind !== 'numbers') return []
  try {
    const found = await numbers((worker) => worker.check(plain(card.question), 1, 1))
    if (!found.checked) return found.problems
    return found.checked.answers ? [] : [{ field: 'formula', message: 'none of 200 draws can be asked' }]
  } catch (error) {
    return [{ field: 'formula', message: (error as Error).message }]
  }
}
async function keep(): Promise<boolean> {
  tried.value = true
  said.value = ''
  if (!('card' in read.value)) return false
  const { card } = read.value
  refused.value = (await unsound(card)).map(({ field, message }) => ({ field: `question.${field}`, message }))
  if (refused.value.length) return false
  await recall.saveCard(
    props.card ? lookedAt(card) : { ...card, added: workspace.today },
    `The card "${frontOf(card)}"`,
  )
  tried.value = false
  if (!props.card) forgetDraft(id)
  return true
}
async function keepAndNext(): Promise<void> {
  const { kind, topic, section } = draft.value
  if (!(await keep())) return
  said.value = `Kept: ${frontOf((read.value as { card: Card }).card)}`
  draft.value = { ...blankDraft(kind, topic), section }
  await nextTick()
  front.value?.querySelector('textarea')?.focus()
}
async function keepAndClose(): Promise<void> {
  if (await keep()) emit('done')
}
/** Another card is written beside it, begun with what this one says. */
async function writeOther(): Promise<void> {
  const other = { ...plain(draft.value), id: crypto.randomUUID(), kept: {} }
  if (!(await keep())) return
  keepDraft(id, other)
  emit('next')
}
async function remove(): Promise<void> {
  await recall.deleteCard(props.card!.id, 'A card that was deleted')
  emit('done')
}
async function suspend(): Promise<void> {
  const { version: _, ...own } = props.card!
  await recall.saveCard(
    { ...own, suspended: !own.suspended },
    own.suspended ? 'A card that is asked again' : 'A card that is no longer asked',
  )
  emit('done')
}
async function picture(file: File): Promise<void> {
  pictureProblem.value = ''
  try {
    draft.value.picture = await smallPicture(file)
  } catch (error) {
    pictureProblem.value = (error as Error).message
  }
}
</script>

<template>
  <form
    class="stack editor"
    novalidate
    :aria-label="card ? 'Mend a card' : 'A new card'"
    @submit.prevent="card ? keepAndClose() : keepAndNext()"
    @keydown.ctrl.enter.prevent="card ? keepAndClose() : keepAndNext()"
  >
    <h2>{{ !card ? 'A new card' : lapses === undefined ? 'Mend a card' : 'A card that does not stay' }}</h2>
    <NotStaying
      v-if="card && lapses !== undefined"
      v-model="why"
      :card="card"
      :lapses="lapses"
      @other="writeOther"
    />
    <div class="two">
      <ChoiceField v-model="draft.kind" label="Kind" :options="kinds" />
      <ChoiceField v-model="draft.topic" label="Topic" :options="topics" />
    </div>
    <div ref="front" class="stack">
      <TextField
        v-model="draft.front"
        :label="
          draft.kind === 'place' ? 'What is to be found' : draft.kind === 'numbers' ? 'Question' : 'Front'
        "
        :lines="2"
        hint="Formulas stand between dollars, as $x^2$."
        :errors="[...fields.at('front'), ...inQuestion.at('text')]"
      />
    </div>
    <template v-if="draft.kind === 'card'">
      <TextField v-model="draft.back" label="Back" :lines="2" :errors="fields.at('back')" />
      <div class="row">
        <img v-if="draft.picture" :src="draft.picture" alt="" class="picture" />
        <FileField
          label="Picture"
          accept="image/png,image/jpeg,image/webp"
          :errors="pictureProblem || undefined"
          :hint="draft.picture ? undefined : 'may be left out; it is made small enough'"
          @chosen="picture"
        />
        <v-btn v-if="draft.picture" @click="draft.picture = undefined">Without it</v-btn>
      </div>
    </template>
    <div v-else-if="draft.kind === 'place'" class="three">
      <TextField v-model="draft.section" label="Chapter or section" :errors="fields.at('section')" />
      <TextField v-model="draft.exact" label="Table, figure or page" optional :errors="fields.at('exact')" />
      <NumberField
        v-model="draft.seconds"
        label="To be found within"
        unit="s"
        :min="1"
        :max="3600"
        whole
        optional
        :errors="fields.at('seconds')"
      />
    </div>
    <NumbersFields v-else v-model="draft" :problems="problems" />
    <ProblemList
      :problems="fields.besides('front', 'back', 'section', 'exact', 'seconds', 'picture', 'question')"
    />
    <div class="row">
      <v-btn v-if="!card" type="submit" size="default" class="main">Keep, and the next</v-btn>
      <v-btn
        :class="{ main: card }"
        size="default"
        :type="card ? 'submit' : 'button'"
        @click="!card && keepAndClose()"
        >Keep it</v-btn
      >
      <v-btn size="default" @click="emit('done')">Not now</v-btn>
      <template v-if="card">
        <v-btn size="default" @click="suspend">{{
          card.suspended ? 'Ask it again' : 'Ask it no longer'
        }}</v-btn>
        <v-btn size="default" @click="remove">Delete it</v-btn>
      </template>
      <span class="small soft" role="status">{{ said }}</span>
    </div>
    <p v-if="!card" class="small soft"><kbd>Ctrl Enter</kbd> keeps it, and the next can be written.</p>
  </form>
</template>

<style scoped>
.editor {
  border: 1px solid var(--hair);
  padding: 14px 16px;
}
.two {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 260px));
  gap: 8px;
}
.three {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 8px;
}
.picture {
  max-height: 90px;
  max-width: 160px;
}
@media (max-width: 700px) {
  .two,
  .three {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
