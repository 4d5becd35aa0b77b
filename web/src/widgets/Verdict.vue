<script setup lang="ts">
import { computed } from 'vue'
import type { Lever, Moved, Verdict } from '@climber/core'
import { useLevers } from '../stores/levers'
import { useWorkspace } from '../stores/workspace'
import { dateWords, durationWords, percentWords, termsOf } from '../manners/words'
import AfterExam from './AfterExam.vue'
import HoursTried from './HoursTried.vue'
import PossibleCandidates from './PossibleCandidates.vue'
import WhereFrom from './WhereFrom.vue'

/**
 * What it takes, beside every step of Set-up: the odds with these answers, and the one change that would do. Another
 * verdict than the record's, with levers moved by hand, may be given, with the sitting it is for.
 */
const props = defineProps<{ verdict?: Verdict; sitting?: string; moved?: Moved }>()
const workspace = useWorkspace()
const levers = useLevers(() => props.moved ?? {})
const verdict = computed(() => props.verdict ?? workspace.overview?.verdict)
const sitting = computed(
  () => workspace.exam?.sittings.find(({ id }) => id === props.sitting) ?? workspace.sitting,
)
/** Deadline and fee of a sitting, where the exam format says them. */
function terms(id: string): string {
  const one = workspace.exam?.sittings.find((other) => other.id === id)
  return one ? termsOf(one, workspace.today) : ''
}
const section = (id: string) => workspace.exam?.sections.find((one) => one.id === id)?.title ?? id
const topic = (id: string) => workspace.exam?.topics.find((one) => one.id === id)?.title ?? id
const needed = (chance: number) => levers.value?.hoursNeeded.find((one) => one.chance === chance)
const lever = <K extends Lever['kind']>(kind: K) =>
  levers.value?.levers.filter((one): one is Extract<Lever, { kind: K }> => one.kind === kind) ?? []
const enough = computed(() => (verdict.value?.odds ?? 0) >= 0.8)
</script>

<template>
  <section
    class="verdict"
    :class="{ coming: !verdict }"
    aria-label="Verdict"
    aria-live="polite"
    :data-lag="Math.round(workspace.lag)"
  >
    <h2>What it takes</h2>
    <template v-if="verdict">
      <div v-if="verdict.odds !== undefined" class="odds">
        <WhereFrom label="Odds of the target">
          <template #figure
            ><span class="large figure" data-testid="verdict-odds">{{
              percentWords(verdict.odds)
            }}</span></template
          >
          Of 1,000 possible candidates who fit everything you answered, studied and recalled,
          <strong>{{ Math.round(1000 * verdict.odds) }}</strong> reach {{ Number(verdict.target!.toFixed(1))
          }}{{ verdict.targetSd ? ', wherever that falls' : ''
          }}{{ verdict.cuts.length ? ', and every cut,' : '' }} with
          {{ verdict.made ? 'the plan that would be made' : 'your plan' }} kept. They differ in what they know
          today (a paper sat now would score {{ Math.round(verdict.today.mean) }} ±
          {{ Math.round(verdict.today.sd) }}), in how fast they learn and forget, and in the luck of the day;
          {{ verdict.hours.toFixed(0) }} hours of study take them to {{ Math.round(verdict.forecast.mean) }} ±
          {{ Math.round(verdict.forecast.sd) }}.
          <PossibleCandidates :odds="verdict.odds" />
          <template v-if="verdict.atRate?.odds !== undefined">
            At the rate you keep sessions: {{ Math.round(1000 * verdict.atRate.odds) }}.
          </template>
        </WhereFrom>
        <div>
          chance of
          <strong>{{ Number(verdict.target!.toFixed(1)) }}</strong><template v-if="verdict.targetSd">
            ± {{ verdict.targetSd.toFixed(1) }}</template
          >
          on {{ sitting ? dateWords(sitting.date, workspace.today) : '' }} with
          <strong>{{ verdict.hours.toFixed(0) }} h</strong> of study{{
            verdict.cuts.length ? ', and of every cut,' : ','
          }}
          {{ verdict.made ? 'if a plan is made and kept' : 'if the plan is kept'
          }}<template v-if="verdict.atRate?.odds !== undefined"
            >; <strong>{{ percentWords(verdict.atRate.odds) }}</strong> at the rate you keep it</template
          >
        </div>
      </div>
      <p v-else>Give a target, and this says how likely it is.</p>
      <p class="small">
        Forecast <strong>{{ Math.round(verdict.forecast.mean) }}</strong>, 8 times in 10 between
        {{ Math.round(verdict.forecast.low) }} and {{ Math.round(verdict.forecast.high) }}. An estimate, not a
        promise.
      </p>
      <p v-for="notice in verdict.notices" :key="notice.code" class="bad">{{ notice.message }}</p>
      <template v-if="verdict.cuts.length">
        <h3>Section cuts</h3>
        <table class="lines small">
          <tbody>
            <tr v-for="cut in verdict.cuts" :key="cut.section">
              <th scope="row">{{ section(cut.section) }}</th>
              <td class="n">{{ cut.cut }}</td>
              <td class="n" :class="cut.odds < 0.5 ? 'bad' : ''">{{ percentWords(cut.odds) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="verdict.targetOdds !== undefined" class="small soft">
          The target alone: {{ percentWords(verdict.targetOdds) }}; with every cut:
          {{ percentWords(verdict.odds!) }}.
        </p>
        <p v-for="id in verdict.missedCuts" :key="id" class="small bad">
          {{ section(id) }} likelier misses its cut than meets it.
        </p>
      </template>
      <template v-if="verdict.odds !== undefined">
        <h3>{{ enough ? 'On course for 80%' : 'Any one of these makes it 80%' }}</h3>
        <p v-if="!levers" class="small soft waiting" data-testid="levers-waiting">
          Plans are being tried out …
        </p>
        <ul v-else class="levers small" data-testid="levers">
          <li v-for="one in lever('time')" :key="one.kind">
            <template v-if="one.minutesMoreAWeek === 0">The hours you have are enough.</template>
            <template v-else-if="one.minutesMoreAWeek"
              >{{ durationWords(one.minutesMoreAWeek) }} more a week</template
            >
            <template v-else>No number of hours by then is enough on its own.</template>
          </li>
          <li v-for="one in lever('sitting').filter(({ odds }) => odds >= 0.8)" :key="one.sitting">
            The sitting of {{ dateWords(one.date, workspace.today) }}: {{ percentWords(one.odds) }} with
            {{ one.hours.toFixed(0) }} h<span v-if="terms(one.sitting)" class="small soft"
              >; {{ terms(one.sitting) }}</span
            >
          </li>
          <li v-for="one in lever('target')" :key="one.kind">
            <template v-if="one.target !== undefined">A target of {{ one.target }}</template>
            <template v-else>No target of this exam is that safe.</template>
          </li>
          <li v-for="one in lever('topics')" :key="one.kind">
            <template v-if="one.reached && !one.topics.length">No topic has to rise.</template>
            <template v-else-if="one.reached"
              >{{ one.topics.slice(0, 3).map(topic).join(', ')
              }}<template v-if="one.topics.length > 3"> and {{ one.topics.length - 3 }} more</template>
              brought to strong, about {{ one.hours.toFixed(0) }} h</template
            >
            <template v-else>Even every topic at strong stays below 80%.</template>
          </li>
        </ul>
        <p v-if="lever('sitting').some(({ odds }) => odds < 0.8)" class="small soft">
          Other sittings:
          {{
            lever('sitting')
              .filter(({ odds }) => odds < 0.8)
              .map((one) => `${dateWords(one.date, workspace.today)} ${percentWords(one.odds)}`)
              .join(', ')
          }}.
        </p>
        <p v-if="levers" class="small soft">
          <WhereFrom label="Hours needed">
            <template #figure>Hours needed</template>
            <HoursTried :tried="levers.tried" :made="verdict.made" /> </WhereFrom
          >:
          <template v-for="chance in [0.5, 0.8, 0.9]" :key="chance"
            >{{ percentWords(chance) }}:
            <strong>{{
              needed(chance)?.hours === undefined ? 'out of reach' : `${needed(chance)!.hours!.toFixed(0)} h`
            }}</strong><template v-if="chance < 0.9">, </template></template
          >
        </p>
      </template>
    </template>
    <AfterExam v-else-if="workspace.overview && workspace.isOver" />
    <p v-else-if="workspace.overview" class="bad">
      No sitting of this exam is still to come. Choose one, or add one to the exam format.
    </p>
    <v-skeleton-loader v-else type="heading, text@5" />
  </section>
</template>

<style scoped>
/* As is this for the levers. */
.waiting {
  min-height: 138px;
}
/* As high as what comes, so that nothing below moves when it comes. */
.coming {
  min-height: 490px;
}
.verdict {
  display: grid;
  gap: 10px;
  align-content: start;
}
.odds {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 12px;
  align-items: end;
}
.figure {
  font-size: 54px;
}
.levers {
  margin: 0;
  padding-left: 16px;
}
.levers li {
  margin: 2px 0;
}
</style>
