<script setup lang="ts">
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  asksWithin,
  countWords,
  type GuessAdvice,
  type GuessGround,
  type GuessQuestion,
  type MixOdds,
} from '@climber/core'
import ChoiceField from '../../kit/ChoiceField.vue'
import { newestOnly } from '../../manners/newest'
import { percentWords, rawWords, scoreWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import NumberField from '../../kit/NumberField.vue'
import SheetHeads from '../../widgets/SheetHeads.vue'
import WhereFrom from '../../widgets/WhereFrom.vue'
import { core, plain } from '../../workers/core'
import GuessTable from './GuessTable.vue'
import OddsCurve from './OddsCurve.vue'
import Trainer from './Trainer.vue'

/** To answer or to leave blank: the table of it, one paper at a time, and practice at deciding. */
const workspace = useWorkspace()
const route = useRoute()
const router = useRouter()
const save = computed(() => workspace.saves!.guessing)

const grounds = shallowRef<GuessGround[]>()
const failed = ref('')
const workGrounds = newestOnly(async () => {
  try {
    grounds.value = await workspace.ask('groundsOf')
    failed.value = ''
  } catch (error) {
    failed.value = (error as Error).message
  }
})
watch([() => workspace.record, () => workspace.today], () => void workGrounds(), { immediate: true })

const weighed = computed(() => grounds.value?.filter(({ plain: advice }) => !advice) ?? [])
const simple = computed(() => grounds.value?.filter(({ plain: advice }) => advice) ?? [])
const ground = computed(
  () => weighed.value.find(({ group }) => group.id === route.query['group']) ?? weighed.value[0],
)
const tabs = computed(() => weighed.value.map(({ group, title }) => ({ id: group.id, title })))
const views = [
  ['table', 'Table'],
  ['trainer', 'Trainer'],
] as const
const view = computed(() => (route.query['view'] === 'trainer' ? 'trainer' : 'table'))
const go = (query: { group?: string; view?: string }) =>
  void router.replace({ query: { ...route.query, ...query } })

const left = ref(3)
type AimKind = 'usual' | 'cut' | 'whole' | 'own'
const aim = ref<AimKind>('usual')
const aims = computed((): { value: AimKind; title: string }[] => {
  const own = ground.value
  if (!own) return []
  const whence = asksWithin(own.aim)
    ? 'what the target asks of it'
    : own.aim.share === undefined
      ? 'its forecast'
      : 'its forecast; the target asks more than it can give'
  return [
    { value: 'usual', title: `${own.usual.scaled}, ${whence}` },
    ...(own.aim.cut === undefined ? [] : [{ value: 'cut' as const, title: `${own.aim.cut}, its cut` }]),
    ...(own.aim.whole
      ? [
          {
            value: 'whole' as const,
            title: `${scoreWords(own.aim.whole.target)} in all, the rest as forecast`,
          },
        ]
      : []),
    { value: 'own', title: 'a score of my own' },
  ]
})
const ownScore = ref<number>()
const conversion = ref('')
const what = reactive({ target: 0, stricter: 0, less: 0 })
watch(ground, (own, before) => {
  if (own?.group.id === before?.group.id) return
  aim.value = 'usual'
  conversion.value = ''
  Object.assign(what, { target: 0, stricter: 0, less: 0 })
  half.safe = own ? Math.round(own.group.items * 0.6) : 0
  left.value = Math.min(3, Math.max(2, (own?.group.choices ?? 4) - 1))
  half.unsure = own ? { [left.value]: Math.max(0, Math.round(own.group.items * 0.3)) } : {}
})
const options = computed(() =>
  Array.from({ length: (ground.value?.group.choices ?? 1) - 1 }, (_, at) => at + 2),
)
const baseScore = computed(() => {
  const own = ground.value
  if (!own) return 0
  if (aim.value === 'cut' && own.aim.cut !== undefined) return own.aim.cut
  if (aim.value === 'own') return ownScore.value ?? own.usual.scaled
  return own.usual.scaled
})
const asked = computed<GuessQuestion | undefined>(() =>
  ground.value
    ? {
        aim: aim.value === 'whole' ? { kind: 'whole' } : { kind: 'score', scaled: baseScore.value },
        left: left.value,
        ...(conversion.value && { conversion: conversion.value }),
      }
    : undefined,
)
const changed = computed(() => what.target !== 0 || what.stricter !== 0 || what.less !== 0)
/** The same, with everything that is asked "what if". */
const supposed = computed<GuessQuestion | undefined>(() => {
  const question = asked.value
  const own = ground.value
  if (!question || !own) return undefined
  return {
    ...question,
    ...(question.aim.kind === 'score' && {
      aim: { kind: 'score', scaled: question.aim.scaled + (what.target || 0) },
    }),
    ...(what.stricter && { stricter: what.stricter }),
    ...(what.less && { sure: Math.max(0, own.sure.rate - what.less / 100) }),
  }
})
const half = reactive<{ safe: number; unsure: Record<number, number> }>({ safe: 0, unsure: {} })
const unsure = computed(() =>
  options.value.map((one) => ({ left: one, items: half.unsure[one] ?? 0 })).filter(({ items }) => items > 0),
)
const room = computed(() => (ground.value ? ground.value.group.items - half.safe : 0))
const unsureItems = computed(() => unsure.value.reduce((sum, { items }) => sum + items, 0))
const mixProblem = computed(() => {
  if (!ground.value) return undefined
  const numbers = [half.safe, ...Object.values(half.unsure)]
  if (numbers.some((number) => !Number.isInteger(number ?? 0) || (number ?? 0) < 0))
    return 'whole numbers, not less than 0'
  if (half.safe > ground.value.group.items) return `at most ${ground.value.group.items} items are there`
  return unsureItems.value > room.value
    ? `${half.safe} safe and ${unsureItems.value} unsure are more than the ${ground.value.group.items} there are`
    : undefined
})

const advice = shallowRef<GuessAdvice>()
const sayings = shallowRef<{ sentence: string; cost?: string }[]>([])
const saying = computed(() => sayings.value[options.value.indexOf(left.value)])
const before = shallowRef<string>()
const mix = shallowRef<MixOdds>()
const work = newestOnly(async () => {
  const own = ground.value
  const question = supposed.value
  if (!own || !question) return
  const bare = plain(own)
  const lefts = options.value
  const all = await Promise.all(
    lefts.map((one) => core().guessAdvice(bare, { ...plain(question), left: one })),
  )
  before.value = changed.value ? (await core().guessAdvice(bare, plain(asked.value!))).sentence : undefined
  mix.value = mixProblem.value
    ? undefined
    : await core().guessMix(bare, plain(question), { safe: half.safe, unsure: plain(unsure.value) })
  advice.value = all[lefts.indexOf(question.left)]
  sayings.value = all
})
watch([ground, supposed, unsure, () => half.safe, mixProblem], () => void work(), {
  immediate: true,
  deep: true,
})

const cell = computed(() => ({ safe: half.safe, unsure: half.unsure[left.value] ?? 0 }))
function choose(safe: number, items: number): void {
  half.safe = safe
  half.unsure = items ? { [left.value]: items } : {}
}
const rateWords = (rate: { rate: number; answers: number; right: number; set?: boolean }) =>
  rate.set ? 'set by you' : rate.answers ? `${rate.right} of ${rate.answers} answers` : 'not measured yet'
const setRate = (key: 'sure' | 'betweenTwo', value: number | undefined) =>
  save.value.edit((guessing) => {
    if (value === undefined) delete guessing[key]
    else guessing[key] = value / 100
  })
const rateProblem = (key: string) => save.value.state.problems.find(({ field }) => field === key)?.message
const signed = (value: number) => `${value > 0 ? '+' : ''}${value.toFixed(2)}`
const answered = computed(() =>
  mix.value
    ? unsure.value
        .map(({ left: one, items }, kind) => ({ left: one, items, answer: mix.value!.best.counts[kind]! }))
        .sort((a, b) => a.left - b.left)
    : [],
)
</script>

<template>
  <div class="sheet stack">
    <h1 class="only-reader">Guessing</h1>
    <SheetHeads
      label="Items with a price on answering"
      panel="guess"
      :tabs="tabs"
      :chosen="ground?.group.id"
      :views="views"
      :view="view"
      @tab="(id) => go({ group: id })"
      @view="(id) => go({ view: id })"
    />
    <p v-if="failed" class="bad" role="alert">{{ failed }}</p>
    <v-skeleton-loader v-if="!grounds" type="image, list-item@4" />
    <template v-else-if="ground">
      <Trainer
        v-if="view === 'trainer'"
        id="guess"
        :key="ground.group.id"
        :ground="ground"
        :question="asked!"
      />
      <div v-else id="guess" class="guess" role="tabpanel" :aria-labelledby="`guess-${ground.group.id}`">
        <div class="stack">
          <p class="say" data-testid="sentence">
            {{ saying?.sentence ?? ' ' }}
          </p>
          <p class="cost small soft" data-testid="rule-cost">{{ saying?.cost ?? ' ' }}</p>
          <p v-if="before && before !== saying?.sentence" class="small soft">As things stand: {{ before }}</p>
          <div class="fields">
            <span class="field"
              ><span class="small soft">Options left on the unsure ones</span>
              <span class="rating" role="group" aria-label="Options left">
                <button
                  v-for="one in options"
                  :key="one"
                  type="button"
                  :aria-pressed="left === one"
                  @click="left = one"
                >
                  {{ countWords(one) }}
                </button>
              </span></span
            >
            <ChoiceField v-model="aim" label="For which score" :options="aims" />
            <NumberField
              v-if="aim === 'own'"
              v-model="ownScore"
              label="Score"
              :placeholder="String(ground.usual.scaled)"
              optional
            />
            <ChoiceField
              v-if="ground.tables.length > 1"
              v-model="conversion"
              label="By which table"
              :options="[
                { value: '', title: 'the strictest table' },
                ...ground.tables.map(({ id, title }) => ({ value: id, title })),
              ]"
            />
          </div>
          <GuessTable v-if="advice" :table="advice.table" :cell="cell" :left="left" @choose="choose" />
          <v-skeleton-loader v-else type="image" class="table" />
        </div>
        <aside class="stack">
          <h2>A paper half done</h2>
          <div class="fields">
            <NumberField v-model="half.safe" label="Safe answers" whole :errors="mixProblem" />
            <NumberField
              v-for="one in options"
              :key="one"
              :model-value="half.unsure[one]"
              :label="`Unsure, ${countWords(one)} left`"
              whole
              optional
              @update:model-value="(value) => (half.unsure[one] = value ?? 0)"
            />
          </div>
          <template v-if="mix && unsureItems">
            <p data-testid="mix">
              <strong v-if="answered.every(({ answer, items }) => answer === items)">Answer them all</strong>
              <strong v-else-if="answered.every(({ answer }) => !answer)">Leave them blank</strong>
              <strong v-else
                >Answer
                {{
                  answered
                    .filter(({ answer }) => answer)
                    .map(
                      ({ answer, left: one, items }) =>
                        `${answer} of the ${items} with ${countWords(one)} left`,
                    )
                    .join(' and ')
                }}</strong
              >:
              <strong>{{ percentWords(mix.best.odds) }}</strong>
              <span class="soft"
                >, none {{ percentWords(mix.odds[0]!) }}, all
                {{ percentWords(mix.odds[mix.odds.length - 1]!) }}</span
              >
            </p>
            <OddsCurve :mix="mix" />
          </template>
          <div v-else-if="unsureItems" class="mix" />
          <p v-else class="small soft">
            Say how many are safe and how many are unsure, or press a cell of the table.
          </p>
          <table v-if="advice" class="lines small" data-testid="values">
            <thead>
              <tr>
                <th>Options left</th>
                <th class="n">Right</th>
                <th class="n">An answer brings</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="one in advice.values" :key="one.left">
                <td>{{ countWords(one.left) }}</td>
                <td class="n">{{ percentWords(one.chance) }}</td>
                <td class="n">
                  <strong :class="one.value > 1e-9 ? 'good' : one.value < -1e-9 ? 'bad' : ''">{{
                    signed(Math.abs(one.value) < 1e-9 ? 0 : one.value)
                  }}</strong>
                  marks
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="advice" class="small soft">
            On average, against a blank.
            <WhereFrom label="What the score asks">
              <template #figure>{{
                advice.rawNeeded === undefined ? 'Weighed' : `Raw ${rawWords(advice.rawNeeded)}`
              }}</template>
              {{
                advice.rawNeeded === undefined
                  ? 'Every raw score counts with the chance of the target that it leaves, the other sections taken as forecast and independent.'
                  : `The least raw score that ${advice.conversion} turns into the score wanted.`
              }}
              The table is exact: the numbers right among the safe and the unsure are added up over every
              outcome.
              {{
                ground.others.length
                  ? 'The rest of the section counts as answered by what is known today.'
                  : ''
              }}
            </WhereFrom>
            {{ advice.rawNeeded === undefined ? 'over all scores.' : 'is needed.' }}
          </p>
          <div class="fields">
            <NumberField
              :model-value="ground.sure.set ? Math.round(ground.sure.rate * 1000) / 10 : undefined"
              label="Right when sure"
              unit="%"
              optional
              :placeholder="(ground.sure.rate * 100).toFixed(1)"
              :errors="rateProblem('sure')"
              @update:model-value="(value) => setRate('sure', value)"
            />
            <NumberField
              :model-value="
                ground.betweenTwo.set ? Math.round(ground.betweenTwo.rate * 1000) / 10 : undefined
              "
              label="Right between two"
              unit="%"
              optional
              :placeholder="(ground.betweenTwo.rate * 100).toFixed(1)"
              :errors="rateProblem('betweenTwo')"
              @update:model-value="(value) => setRate('betweenTwo', value)"
            />
          </div>
          <p class="small soft">
            Sure: {{ rateWords(ground.sure) }}. Between two: {{ rateWords(ground.betweenTwo) }}. Drawn towards
            95% and 50% while few.
          </p>
          <h2>What if</h2>
          <div class="fields" data-testid="what-if">
            <NumberField
              v-if="aim !== 'whole'"
              v-model="what.target"
              label="Score wanted, by"
              unit="points"
            />
            <NumberField v-model="what.stricter" label="Table stricter, by" unit="marks" />
            <NumberField v-model="what.less" label="Sure less often, by" unit="points of %" />
            <v-btn v-if="changed" @click="Object.assign(what, { target: 0, stricter: 0, less: 0 })"
              >As it is</v-btn
            >
          </div>
        </aside>
      </div>
    </template>
    <section v-if="simple.length" class="stack plain" data-testid="plain">
      <h2>
        {{ weighed.length ? 'Elsewhere nothing is to be weighed' : 'Nothing is to be weighed in this exam' }}
      </h2>
      <p v-for="one in simple" :key="one.group.id">
        <strong>{{ one.title }}.</strong> {{ one.plain }}
      </p>
    </section>
  </div>
</template>

<style scoped>
.guess {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  gap: 34px;
}
.say {
  font-size: 17px;
  min-height: 1.5em;
}
.mix {
  min-height: 232px;
}
.cost {
  min-height: 1.5em;
}
/* As high as the table that takes its place. */
.table {
  height: 440px;
  overflow: hidden;
}
.plain {
  border-top: 1px solid var(--hair);
  padding-top: 12px;
  margin-top: 8px;
}
@media (max-width: 900px) {
  .guess {
    grid-template-columns: 1fr;
    gap: 16px;
  }
  .rating button {
    min-height: 38px;
  }
  .say,
  .cost {
    min-height: 3em;
  }
  .table {
    height: 400px;
  }
}
</style>
