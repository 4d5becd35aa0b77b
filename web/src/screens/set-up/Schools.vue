<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { parts, type Schools, type Settings, type StageSetting, type Template } from '@climber/contract'
import { type Compared, type Difference, schools as ways } from '@climber/core'
import { type ApiFailure, call } from '../../api'
import TickField from '../../kit/TickField.vue'
import { kindWords } from '../../manners/kinds'
import { percentWords, scoreWords } from '../../manners/words'
import { planSeed } from '../../stores/planChanges'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import NumberField from '../../kit/NumberField.vue'
import TextField from '../../kit/TextField.vue'

/** Where good tutors disagree: each question with its default and reason; kept under a name; compared side by side. */
const workspace = useWorkspace()
const save = computed(() => workspace.saves!.settings)
const document = computed(() => save.value.state.document)
const edit = (change: (settings: Settings) => void) => save.value.edit(change)
const problemAt = (field: string) =>
  save.value.state.problems.find((one) => one.field === field || one.field.startsWith(`${field}.`))?.message

const questions: { field: keyof Schools; title: string; options: [string, string][] }[] = [
  {
    field: 'firstTest',
    title: 'First full test',
    options: [
      ['at once', 'A plan needs a baseline.'],
      ['after the first read', 'A test before anything was read can frighten more than it tells.'],
    ],
  },
  {
    field: 'order',
    title: 'What comes first',
    options: [
      ['yield', 'Yield per hour weighs weakness, share and ease together.'],
      ['weakest', 'The weakest topics, whatever they yield.'],
      ['easiest section', 'More hours for the section that is easiest to lift.'],
      ['book', 'The order of the blueprint, length by length.'],
    ],
  },
  {
    field: 'counts',
    title: 'What an hour counts by',
    options: [
      [
        'odds',
        'What it adds to the odds of the target and every cut: a section short of its cut gets its hours.',
      ],
      [
        'points',
        'Points of the whole score, each as good as any other; without a target it is always these.',
      ],
    ],
  },
  {
    field: 'tests',
    title: 'Practice tests',
    options: [
      ['by lead time', 'The lead time says how often review keeps up.'],
      ['weekly', 'One a week throughout.'],
      ['few, then often', 'Few at first, then every third day.'],
      ['near the end', 'Only in the last stretch.'],
    ],
  },
  {
    field: 'review',
    title: 'Review',
    options: [
      ['misses, doubtful and lucky', 'A lucky item is a miss that has not happened yet.'],
      ['misses', 'Misses only: shorter.'],
      ['every question', 'Every question: longer.'],
    ],
  },
  {
    field: 'mistakes',
    title: 'Record of mistakes',
    options: [
      ['cause', 'The cause always, a note when there is something to say.'],
      ['three causes', 'Three causes are enough: did not know it, slipped, no time.'],
      ['full note', 'A full note on each.'],
    ],
  },
  {
    field: 'lastDays',
    title: 'Last days',
    options: [
      ['stop', 'Rest is worth more than the last new page.'],
      ['light work to the eve', 'Own notes, half an hour at most.'],
    ],
  },
  {
    field: 'subjects',
    title: 'Subjects',
    options: [
      ['mixed', 'Interleaved topics stay longer.'],
      ['a section a week', 'A whole week on one subject.'],
    ],
  },
]
const chosen = (field: keyof Schools): string =>
  document.value.schools?.[field] ?? questions.find((one) => one.field === field)!.options[0]![0]
const reason = (field: keyof Schools) =>
  questions.find((one) => one.field === field)!.options.find(([value]) => value === chosen(field))?.[1]
const choose = (field: keyof Schools, value: string) =>
  edit((settings) => {
    const next = { ...settings.schools, [field]: value } as Schools
    if (value === questions.find((one) => one.field === field)!.options[0]![0]) delete next[field]
    if (Object.keys(next).length) settings.schools = next
    else delete settings.schools
  })
const rehearsals = computed(() => (document.value.rehearsals ?? []).join(', '))
const setRehearsals = (text: string) =>
  edit((settings) => {
    const days = text
      .split(/[,; ]+/)
      .filter(Boolean)
      .map(Number)
    if (days.length) settings.rehearsals = days
    else delete settings.rehearsals
  })
const setFlag = (field: 'resitFirst' | 'visit', on: boolean) =>
  edit((settings) => {
    if (on) settings[field] = true
    else delete settings[field]
  })
const setRetest = (days: number | undefined) =>
  edit((settings) => (settings.retestDays = days === undefined || Number.isNaN(days) ? null : days))
const ownStages = (): StageSetting[] => [
  { name: 'Learn', share: 0.6, testEvery: 14, rehearsal: false },
  { name: 'Rehearse', share: 0.4, testEvery: 4, rehearsal: true },
]
const editStages = (change: (stages: StageSetting[]) => void) =>
  edit((settings) => {
    change((settings.stages ??= []))
    if (!settings.stages.length) delete settings.stages
  })

const templates = ref<Template[]>([])
const name = ref('')
const problem = ref('')
const guarded = async (work: () => Promise<void>) => {
  problem.value = ''
  try {
    await work()
  } catch (error) {
    problem.value = (error as ApiFailure).message
  }
}
onMounted(() => guarded(async () => void (templates.value = await call('listTemplates', {}))))
/** The template whose name was typed: keeping puts these settings in its place, and the button says so. */
const replaced = computed(() => templates.value.find((one) => one.title === name.value.trim()))
/** What was kept, replaced or forgotten last, and how it is taken back. */
const done = ref<{ words: string; takeBack: () => Promise<void> }>()
const isNot = (id: string) => (one: Template) => one.id !== id
async function put(title: string, settings: Settings, over?: Template): Promise<Template> {
  const stored = await call(
    'saveTemplate',
    { templateId: over?.id ?? crypto.randomUUID() },
    { title, settings, ...(over && { version: over.version }) },
  )
  templates.value = [...templates.value.filter(isNot(stored.id)), stored].sort((a, b) =>
    a.title.localeCompare(b.title),
  )
  return stored
}
async function drop(id: string): Promise<void> {
  await call('deleteTemplate', { templateId: id })
  templates.value = templates.value.filter(isNot(id))
}
const keep = () =>
  guarded(async () => {
    const before = replaced.value
    const stored = await put(name.value.trim(), plain(document.value), before)
    name.value = ''
    done.value = {
      words: `“${stored.title}” is ${before ? 'replaced' : 'kept'}.`,
      takeBack: async () =>
        void (await (before ? put(before.title, before.settings, stored) : drop(stored.id))),
    }
  })
const forget = (template: Template) =>
  guarded(async () => {
    await drop(template.id)
    done.value = {
      words: `“${template.title}” is forgotten.`,
      takeBack: async () => void (await put(template.title, template.settings)),
    }
  })
const takeBack = () =>
  guarded(async () => {
    await done.value?.takeBack()
    done.value = undefined
  })
/** Takes settings over; what was granted to this candidate, and hours set by hand for this exam, stay. */
const take = (settings: Partial<Settings>) =>
  edit((own) => {
    const { accommodation, timeFactor, topicHours } = own
    const next = parts.settings.parse({
      ...plain(settings),
      timeFactor,
      topicHours,
      ...(accommodation && { accommodation }),
    })
    for (const key of Object.keys(own)) delete (own as Record<string, unknown>)[key]
    Object.assign(own, next)
  })

interface Choice {
  id: string
  title: string
  settings: Settings
}
const choices = computed((): Choice[] => [
  { id: 'now', title: 'As it is set now', settings: plain(document.value) },
  ...ways.map(({ id, title, settings }) => ({ id, title, settings: over(settings) })),
  ...templates.value.map(({ id, title, settings }) => ({ id, title, settings: over(settings) })),
])
const over = (settings: Partial<Settings>): Settings => {
  const { accommodation, timeFactor, topicHours } = document.value
  return parts.settings.parse(plain({ ...settings, timeFactor, topicHours, accommodation }))
}
const columns = ref(['now', 'few-then-often', 'book-order'])
const compared = ref<Compared[]>()
const comparing = ref(false)
const compare = () =>
  guarded(async () => {
    comparing.value = true
    const picked = columns.value.flatMap((id) => choices.value.find((one) => one.id === id) ?? [])
    compared.value = await workspace
      .askBeside('compareSchools', planSeed, plain(picked))
      .finally(() => (comparing.value = false))
  })
const byKind = ref(false)
/** A difference is told as one where it is more than twice its error; else it may as well be chance. */
function againstWords(against: Difference | undefined): string {
  if (!against) return ''
  const { points, error } = against
  const off = `± ${Number((2 * error).toPrecision(2))}`
  if (Math.abs(points) < 2 * error) return `no difference beyond chance (${off})`
  const by = Number(Math.abs(points).toPrecision(2))
  return `${by} ${points > 0 ? 'more' : 'less'} (${off})`
}
const h = (hours: number | undefined) => (hours ? `${Math.round(hours * 10) / 10} h` : '')
const kinds = ['learn', 'drill', 'mixed', 'test', 'review', 'retest', 'light', 'errand'] as const
</script>

<template>
  <div class="stack">
    <h2>Schools</h2>
    <div v-for="question in questions" :key="question.field" class="habit">
      <ChoiceField
        :label="question.title"
        :model-value="chosen(question.field)"
        :options="
          question.options.map(([value], at) => ({ value, title: at ? value : `${value} (default)` }))
        "
        @update:model-value="choose(question.field, $event)"
      />
      <p class="small soft">{{ reason(question.field) }}</p>
    </div>
    <div class="habit">
      <TextField
        label="Full rehearsals, days before the exam"
        optional
        placeholder="28, 14"
        :model-value="rehearsals"
        :errors="problemAt('rehearsals')"
        @update:model-value="setRehearsals(String($event ?? ''))"
      />
      <p class="small soft">Whole tests at these distances, whatever the rhythm.</p>
    </div>
    <div class="habit">
      <NumberField
        label="Retest, days after a review"
        optional
        placeholder="none"
        :model-value="document.retestDays === null ? undefined : (document.retestDays ?? 7)"
        :errors="problemAt('retestDays')"
        @update:model-value="setRetest($event as number | undefined)"
      />
      <p class="small soft">
        Default 7: what was missed once more, when it has had time to fade. Empty for none.
      </p>
    </div>
    <div class="row small">
      <TickField
        label="sit the first test again near the end"
        :model-value="document.resitFirst"
        @update:model-value="setFlag('resitFirst', $event)"
      />
      <TickField
        label="a trip to see the place"
        :model-value="document.visit"
        @update:model-value="setFlag('visit', $event)"
      />
    </div>
    <div class="stack">
      <div class="row">
        <h3>Stages</h3>
        <v-btn v-if="!document.stages" @click="editStages((stages) => stages.push(...ownStages()))"
          >Lay out your own</v-btn
        >
        <v-btn v-else @click="editStages((stages) => stages.splice(0))">By lead time again</v-btn>
        <span v-if="problemAt('stages')" class="bad small" role="alert">{{ problemAt('stages') }}</span>
      </div>
      <table v-if="document.stages" class="lines small">
        <thead>
          <tr>
            <th>Name</th>
            <th>Per cent of the days</th>
            <th>A test every … days</th>
            <th>Publisher's tests</th>
            <th><span class="only-reader">Remove</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(stage, at) in document.stages" :key="at">
            <td>
              <TextField
                label="Name of the stage"
                quiet
                :model-value="stage.name"
                @update:model-value="editStages((list) => (list[at]!.name = String($event ?? '')))"
              />
            </td>
            <td>
              <NumberField
                label="Per cent of the days"
                quiet
                style="width: 70px"
                :model-value="Math.round(stage.share * 1000) / 10"
                @update:model-value="editStages((list) => (list[at]!.share = Number($event) / 100))"
              />
            </td>
            <td>
              <NumberField
                label="A test every so many days, 0 for none"
                quiet
                style="width: 70px"
                :model-value="stage.testEvery"
                @update:model-value="editStages((list) => (list[at]!.testEvery = Number($event)))"
              />
            </td>
            <td>
              <TickField
                label="The publisher's tests may be used here"
                quiet
                :model-value="stage.rehearsal"
                @update:model-value="editStages((list) => (list[at]!.rehearsal = $event))"
              />
            </td>
            <td>
              <v-btn :aria-label="`Remove ${stage.name}`" @click="editStages((list) => list.splice(at, 1))"
                >×</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
      <div v-if="document.stages">
        <v-btn
          @click="
            editStages((list) => list.push({ name: 'Another', share: 0.1, testEvery: 7, rehearsal: false }))
          "
          >Add a stage</v-btn
        >
      </div>
    </div>
    <h2>Templates</h2>
    <form class="row" novalidate @submit.prevent="keep">
      <TextField v-model="name" label="Name of the template" />
      <v-btn type="submit" :disabled="!name.trim()">{{
        replaced ? `Replace “${replaced.title}”` : 'Keep these settings'
      }}</v-btn>
    </form>
    <p v-if="problem" class="bad small" role="alert">{{ problem }}</p>
    <p v-if="done" class="row small" role="status">{{ done.words }} <v-btn @click="takeBack">Undo</v-btn></p>
    <div v-for="template in templates" :key="template.id" class="row" data-testid="template">
      <span>{{ template.title }}</span>
      <v-btn @click="take(template.settings)">Use it</v-btn>
      <v-btn :aria-label="`Forget ${template.title}`" @click="forget(template)">Forget</v-btn>
    </div>
    <h2>Side by side</h2>
    <div class="row">
      <ChoiceField
        v-for="(column, at) in columns"
        :key="at"
        class="way"
        :label="`Way ${at + 1}`"
        :model-value="column"
        :options="choices.map(({ id, title }) => ({ value: id, title }))"
        @update:model-value="columns[at] = $event"
      />
      <v-btn class="main" :loading="comparing" @click="compare">Compare</v-btn>
    </div>
    <p v-if="compared" class="small soft">
      Each way is made three times: ± is what chance in the making does. “Other learners” are 48 simulated
      people of four kinds who learn and forget otherwise than Climber thinks; all of them begin where you
      seem to stand, live each plan to its end, and are held against the first way.
    </p>
    <div v-if="compared" class="scroll">
      <table class="lines small" data-testid="compared">
        <thead>
          <tr>
            <th />
            <th v-for="way in compared" :key="way.title" class="n">{{ way.title }}</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th>Chance of the target</th>
            <td v-for="way in compared" :key="way.title" class="n">
              <strong>{{ way.odds === undefined ? '…' : percentWords(way.odds) }}</strong>
              <span v-if="way.luck !== undefined" class="soft">
                ± {{ Math.max(1, Math.round(200 * way.luck)) }} by chance</span
              >
            </td>
          </tr>
          <tr>
            <th>Expected score</th>
            <td v-for="way in compared" :key="way.title" class="n">
              <template v-if="way.forecast"
                >{{ scoreWords(Math.round(way.forecast.mean)) }}, {{ Math.round(way.forecast.low) }} to
                {{ Math.round(way.forecast.high) }}</template
              >
            </td>
          </tr>
          <tr data-testid="others">
            <th>
              Other learners score
              <button type="button" class="chip" :aria-expanded="byKind" @click="byKind = !byKind">
                by kind
              </button>
            </th>
            <td v-for="way in compared" :key="way.title" class="n">
              <template v-if="way.others"
                >{{ Math.round(way.others.mean) }}<br /><span class="soft">{{
                  againstWords(way.others.against)
                }}</span></template
              >
            </td>
          </tr>
          <template v-if="byKind">
            <tr v-for="(kind, at) in compared[0]?.others?.byKind ?? []" :key="kind.title">
              <th class="soft">Who {{ kind.title }}</th>
              <td v-for="way in compared" :key="way.title" class="n soft">
                {{ Math.round(way.others!.byKind[at]!.mean) }}<br />{{
                  againstWords(way.others!.byKind[at]!.against)
                }}
              </td>
            </tr>
          </template>
          <tr>
            <th>Tests</th>
            <td v-for="way in compared" :key="way.title" class="n">{{ way.tests }}</td>
          </tr>
          <tr v-for="kind in kinds.filter((one) => compared!.some(({ hours }) => hours[one]))" :key="kind">
            <th>{{ kindWords[kind] }}</th>
            <td v-for="way in compared" :key="way.title" class="n">{{ h(way.hours[kind]) }}</td>
          </tr>
          <tr>
            <th>All hours</th>
            <td v-for="way in compared" :key="way.title" class="n">{{ h(way.total) }}</td>
          </tr>
          <tr>
            <th>A week, and the fullest</th>
            <td v-for="way in compared" :key="way.title" class="n">
              {{ h(way.average) }}, {{ h(way.fullest) }}
            </td>
          </tr>
          <tr>
            <th>Load by week</th>
            <td v-for="way in compared" :key="way.title" class="n">
              <svg
                :width="way.byWeek.length * 5"
                height="26"
                role="img"
                :aria-label="`Hours a week, most ${h(way.fullest)}`"
              >
                <rect
                  v-for="(week, at) in way.byWeek"
                  :key="week.from"
                  :x="at * 5"
                  :y="26 - (24 * week.hours) / Math.max(1, ...compared.map(({ fullest }) => fullest))"
                  width="4"
                  :height="(24 * week.hours) / Math.max(1, ...compared.map(({ fullest }) => fullest))"
                />
              </svg>
            </td>
          </tr>
          <tr>
            <th>Gives up</th>
            <td v-for="way in compared" :key="way.title" class="n">
              {{
                way.untouched.topics.length
                  ? `${way.untouched.topics.length === 1 ? 'one topic' : `${way.untouched.topics.length} topics`}, ${percentWords(way.untouched.share)} of the exam: ${way.untouched.topics.slice(0, 3).join(', ')}${way.untouched.topics.length > 3 ? ' …' : ''}`
                  : 'no topic'
              }}
            </td>
          </tr>
          <tr>
            <th />
            <td v-for="(way, at) in compared" :key="way.title" class="n">
              <v-btn
                v-if="columns[at] !== 'now'"
                :aria-label="`Take ${way.title}`"
                @click="take(choices.find(({ id }) => id === columns[at])!.settings)"
                >Take it</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.field {
  display: grid;
}
.field select {
  width: 100%;
  min-width: 0;
}
.scroll {
  overflow-x: auto;
}
rect {
  fill: var(--lichen);
}
</style>
