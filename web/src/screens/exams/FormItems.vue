<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Form, FormItem } from '@climber/contract'
import { type FormPlace, formParts, formPlaces, lettersOf, slugOf } from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import NumberField from '../../kit/NumberField.vue'
import TextField from '../../kit/TextField.vue'
import FormText from '../../widgets/FormText.vue'
import { setOptional, useDraft } from './draft'

/** The items of a form, one at a time beside a list of all of them: key, topic, text, options, what earns marks. */
const props = defineProps<{ form: Form; at: number }>()
const draft = useDraft()
const exam = computed(() => draft.state.format)

interface Place extends FormPlace {
  part: string
  section: string
}
const parts = computed(() =>
  formParts(exam.value).map((part) => {
    const section = exam.value.sections.find(
      ({ id, stages }) => id === part.id || stages?.some((stage) => stage.id === part.id),
    )!
    const places = formPlaces(part.groups).map((place): Place => ({
      ...place,
      part: part.id,
      section: section.id,
    }))
    return { ...part, places }
  }),
)
const all = computed(() => parts.value.flatMap(({ places }) => places))
const chosen = ref(0)
const place = computed(() => all.value[Math.min(chosen.value, all.value.length - 1)]!)
const itemAt = ({ group, at }: Place): FormItem => props.form.items?.[group.id]?.[at] ?? {}
const item = computed(() => itemAt(place.value))

/** Changes the chosen item; its group gets all its items with the first one of which something is known. */
function change(how: (own: FormItem) => void): void {
  const { form } = props
  const { group, at } = place.value
  const items = (form.items ??= {})
  const own = (items[group.id] ??= [])
  while (own.length < group.items) own.push({})
  how(own[at]!)
}
const set = <K extends keyof FormItem>(field: K, value: FormItem[K] | '' | undefined) =>
  change((own) => setOptional(own, field, value))
const path = computed(() => `forms.${props.at}.items.${place.value.group.id}.${place.value.at}`)
const wrong = (field: string) => draft.within(`${path.value}.${field}`).map(({ message }) => message)
const troubled = ({ group, at }: Place) =>
  draft.within(`forms.${props.at}.items.${group.id}.${at}`).length > 0

const letters = computed(() => [...lettersOf(place.value.group.choices ?? 4)])
const keys = computed(() => [
  { value: '', title: 'not known' },
  ...letters.value.map((letter) => ({ value: letter, title: letter })),
])
const topics = computed(() => [
  { value: '', title: 'none' },
  ...exam.value.topics
    .filter(({ section }) => section === place.value.section)
    .map(({ id, title }) => ({ value: id, title })),
])
const stimuli = computed(() => [
  { value: '', title: 'none' },
  ...(props.form.stimuli ?? []).map(({ id, title }) => ({ value: id, title: title || id })),
])
function setOption(at: number, text: string): void {
  change((own) => {
    const options = letters.value.map((_, place) => own.options?.[place] ?? '')
    options[at] = text
    // An item without any option is one of which only the key is known.
    if (options.some(Boolean)) own.options = options
    else delete own.options
  })
}
const stimulusAt = computed(() => props.form.stimuli?.findIndex(({ id }) => id === item.value.stimulus) ?? -1)
const stimulus = computed(() => props.form.stimuli?.[stimulusAt.value])
const sharing = computed(() => all.value.filter((one) => itemAt(one).stimulus === stimulus.value?.id).length)
function addStimulus(): void {
  const { form } = props
  const all = (form.stimuli ??= [])
  const title = `Stimulus ${all.length + 1}`
  const id = slugOf(
    title,
    all.map((one) => one.id),
  )
  all.push({ id, title, text: '' })
  set('stimulus', id)
}
/** A stimulus goes from every item that it stood beside. */
function dropStimulus(): void {
  const { form } = props
  const { id } = stimulus.value!
  for (const own of Object.values(form.items ?? {}).flat()) if (own.stimulus === id) delete own.stimulus
  form.stimuli = form.stimuli?.filter((one) => one.id !== id)
  if (!form.stimuli?.length) delete form.stimuli
}
function addCriterion(): void {
  change((own) => {
    const criteria = (own.criteria ??= [])
    const left = place.value.group.perRight - criteria.reduce((sum, { marks }) => sum + marks, 0)
    criteria.push({ text: '', marks: Math.max(1, left) })
  })
}
function dropCriterion(at: number): void {
  change((own) => {
    own.criteria?.splice(at, 1)
    if (!own.criteria?.length) delete own.criteria
  })
}
const stateOf = (one: Place): string => {
  const { key, text, topic } = itemAt(one)
  return [key && `key ${key}`, text && 'text', topic && 'topic'].filter(Boolean).join(', ') || 'nothing yet'
}
const go = (by: number) => (chosen.value = Math.min(all.value.length - 1, Math.max(0, chosen.value + by)))
</script>

<template>
  <div class="two">
    <nav class="list" aria-label="Items of the form">
      <template v-for="one in parts" :key="one.id">
        <p class="small soft">{{ one.title }}</p>
        <div class="numbers">
          <button
            v-for="own in one.places"
            :key="own.number"
            type="button"
            :class="{
              here: own === place,
              text: itemAt(own).text,
              keyed: itemAt(own).key,
              bad: troubled(own),
            }"
            :aria-current="own === place || undefined"
            :aria-label="`${one.title}, item ${own.number}: ${stateOf(own)}${troubled(own) ? ', to mend' : ''}`"
            @click="chosen = all.indexOf(own)"
          >
            {{ own.number }}
          </button>
        </div>
      </template>
      <p class="small soft">Filled: has a text. Bold: has a key. Clay: to mend.</p>
    </nav>
    <section class="stack" :aria-label="`Item ${place.number}`">
      <div class="row">
        <h4>Item {{ place.number }}</h4>
        <v-btn :disabled="chosen === 0" @click="go(-1)">Item before</v-btn>
        <v-btn :disabled="chosen === all.length - 1" @click="go(1)">Next item</v-btn>
      </div>
      <div class="heads">
        <ChoiceField
          v-if="place.group.kind === 'choice'"
          label="Key"
          :options="keys"
          :model-value="item.key ?? ''"
          :errors="wrong('key')"
          @update:model-value="set('key', $event)"
        />
        <TextField
          v-else-if="place.group.kind === 'numeric'"
          label="Key"
          optional
          :model-value="item.key ?? ''"
          :errors="wrong('key')"
          @update:model-value="set('key', $event)"
        />
        <ChoiceField
          label="Topic"
          :options="topics"
          :model-value="item.topic ?? ''"
          :errors="wrong('topic')"
          @update:model-value="set('topic', $event)"
        />
        <ChoiceField
          label="Stimulus"
          :options="stimuli"
          :model-value="item.stimulus ?? ''"
          :errors="wrong('stimulus')"
          @update:model-value="set('stimulus', $event)"
        />
        <v-btn class="justify-start" variant="text" @click="addStimulus">A new stimulus</v-btn>
      </div>
      <div v-if="stimulus" class="stack part">
        <p class="small soft">
          The stimulus stands beside {{ sharing === 1 ? 'this item' : `${sharing} items` }}; a change here is
          a change for all of them.
        </p>
        <TextField
          label="Its title"
          optional
          :model-value="stimulus.title ?? ''"
          @update:model-value="setOptional(stimulus!, 'title', $event)"
        />
        <TextField
          v-model="stimulus.text"
          label="Its text"
          :lines="5"
          :errors="draft.within(`forms.${at}.stimuli.${stimulusAt}`).map(({ message }) => message)"
        />
        <v-btn class="justify-start" variant="text" @click="dropStimulus">Remove this stimulus</v-btn>
        <div v-if="stimulus.text" class="seen" role="group" aria-label="The stimulus as it is seen">
          <FormText :text="stimulus.text" :pictures="form.pictures" />
        </div>
      </div>
      <TextField
        label="Text of the item"
        optional
        :lines="4"
        hint="Markdown; formulas between dollars; a picture as ![what it shows](picture:its-name)"
        :model-value="item.text ?? ''"
        :errors="wrong('text')"
        @update:model-value="set('text', $event)"
      />
      <div v-if="place.group.kind === 'choice'" class="stack">
        <TextField
          v-for="(letter, option) in letters"
          :key="letter"
          :label="`Option ${letter}${item.key === letter ? ', the key' : ''}`"
          optional
          :model-value="item.options?.[option] ?? ''"
          :errors="wrong(`options.${option}`)"
          @update:model-value="setOption(option, $event)"
        />
      </div>
      <div v-else-if="place.group.kind === 'written'" class="stack">
        <p class="small soft">
          What earns how many of its {{ place.group.perRight }} marks; whoever marks it gives them one by one.
        </p>
        <div v-for="(criterion, row) in item.criteria ?? []" :key="row" class="criterion">
          <TextField
            v-model="criterion.text"
            :label="`What earns marks, ${row + 1}`"
            :errors="wrong(`criteria.${row}.text`)"
          />
          <NumberField
            :model-value="criterion.marks"
            label="Marks"
            :min="0"
            :errors="wrong(`criteria.${row}.marks`)"
            @update:model-value="criterion.marks = $event ?? 0"
          />
          <v-btn
            variant="text"
            :aria-label="`Remove what earns marks, ${row + 1}`"
            @click="dropCriterion(row)"
            >Remove</v-btn
          >
        </div>
        <p
          v-for="one in draft.problems.value.filter(({ field }) => field === `${path}.criteria`)"
          :key="one.message"
          class="bad small"
          role="alert"
        >
          {{ one.message }}
        </p>
        <v-btn class="justify-start" @click="addCriterion">Add what earns marks</v-btn>
      </div>
      <div v-if="item.text" class="seen" role="group" aria-label="The item as it is seen">
        <FormText :text="item.text" :pictures="form.pictures" />
        <p v-for="(option, row) in item.options ?? []" :key="row" class="option">
          <strong>{{ letters[row] }}</strong> <FormText within :text="option" :pictures="form.pictures" />
        </p>
      </div>
      <p v-if="wrong('options').length && !item.options?.some((one) => !one)" class="bad small" role="alert">
        {{ wrong('options').join('; ') }}
      </p>
    </section>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 232px minmax(0, 1fr);
  gap: 24px;
  align-items: start;
}
.list {
  max-height: 640px;
  overflow-y: auto;
}
.numbers {
  display: grid;
  grid-template-columns: repeat(6, 34px);
  gap: 2px;
  margin-bottom: 8px;
}
.numbers button {
  font: inherit;
  min-height: 30px;
  border: 1px solid var(--hair);
  background: none;
  color: var(--soft);
  cursor: pointer;
}
.numbers .text {
  background: var(--wash);
}
.numbers .keyed {
  font-weight: 700;
  color: var(--ink);
}
.numbers .bad {
  border-color: var(--clay);
  color: var(--clay);
}
.numbers .here {
  outline: 2px solid var(--ochre);
  outline-offset: -1px;
}
.heads {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(230px, 100%), 1fr));
  gap: 8px 16px;
  align-items: start;
}
.part {
  border-left: 3px solid var(--hair);
  padding-left: 14px;
}
.seen {
  border: 1px solid var(--hair);
  padding: 10px 14px;
  background: var(--paper);
}
.option {
  margin: 0 0 4px;
}
.criterion {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 90px auto;
  gap: 12px;
}
@media (max-width: 700px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .list {
    max-height: 220px;
  }
  .numbers {
    grid-template-columns: repeat(auto-fill, minmax(42px, 1fr));
  }
  .numbers button {
    min-height: 40px;
  }
}
</style>
