<script setup lang="ts">
import { computed } from 'vue'
import type { Settings } from '@climber/contract'
import ChoiceField from '../../kit/ChoiceField.vue'
import Later from '../../kit/Later.vue'
import NumberField from '../../kit/NumberField.vue'
import { useWorkspace } from '../../stores/workspace'
import Schools from './Schools.vue'

const workspace = useWorkspace()
const save = computed(() => workspace.saves!.settings)
const document = computed(() => save.value.state.document)
const problemAt = (field: string) =>
  save.value.state.problems.filter((one) => one.field === field).map(({ message }) => message)

type Numeric = 'sessionMinutes' | 'breakMinutes' | 'reviewRatio' | 'slackShare' | 'taperDays' | 'timeFactor'
/** Field, label, factor from what is stored to what is shown, and why the default is what it is. */
const fields: [Numeric, string, number, string][] = [
  [
    'sessionMinutes',
    'A session, minutes',
    1,
    'Default 50, with a 10-minute break: long enough to get into it, short enough to stay.',
  ],
  ['breakMinutes', 'Break, minutes', 1, ''],
  [
    'reviewRatio',
    "Review, times the test's length",
    1,
    'Default 1.5: the hours after a test are the most valuable ones. If review cannot keep up, tests are thinned, never review.',
  ],
  ['slackShare', 'Slack, per cent of a week', 100, 'Default 12.5: left free, for what slips.'],
  ['taperDays', 'Stop, days before the exam', 1, 'Default 2: rest is worth more than the last new page.'],
  [
    'timeFactor',
    'Time granted, per cent',
    100,
    'Extra time as an accommodation: 125 is a quarter more. Ask the testing body early.',
  ],
]
const set = (field: Numeric, factor: number, number: number | undefined) =>
  save.value.edit((settings: Settings) => {
    if (number !== undefined) settings[field] = number / factor
  })
const grants = computed(() => workspace.exam?.accommodations ?? [])
const setGrant = (grant: string) =>
  save.value.edit((settings) => {
    if (grant) settings.accommodation = grant
    else delete settings.accommodation
  })
const setRhythm = (days: number | undefined) =>
  save.value.edit((settings) => (settings.testEveryDays = days ?? null))
</script>

<template>
  <div class="stack habits">
    <h2>How the plan is made</h2>
    <div v-for="[field, label, factor, why] in fields" :key="field" class="habit">
      <NumberField
        :label="label"
        :model-value="Math.round(document[field] * factor * 100) / 100"
        :errors="problemAt(field)"
        @update:model-value="set(field, factor, $event)"
      />
      <p class="small soft">{{ why }}</p>
    </div>
    <div v-if="grants.length" class="habit">
      <ChoiceField
        label="Accommodation granted"
        :model-value="document.accommodation ?? ''"
        :options="[
          { value: '', title: 'none of the exam’s own' },
          ...grants.map(({ id, title }) => ({ value: id, title })),
        ]"
        @update:model-value="setGrant"
      />
      <p class="small soft">
        The exam's own kinds, with their times section by section; one of these takes the place of the per
        cent above.
      </p>
    </div>
    <div class="habit">
      <NumberField
        label="A practice test every … days"
        placeholder="by lead time"
        optional
        :model-value="document.testEveryDays ?? undefined"
        :errors="problemAt('testEveryDays')"
        @update:model-value="setRhythm"
      />
      <p class="small soft">
        Left open, the lead time says: weekly, and closer together in the last third of a long preparation.
      </p>
    </div>
    <Later><Schools /></Later>
  </div>
</template>
