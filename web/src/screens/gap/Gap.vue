<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { type Gap, itemsOf } from '@climber/core'
import { newestOnly } from '../../manners/newest'
import { dateWords, percentWords, rawWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import { core, plain } from '../../workers/core'
import LossBudget from './LossBudget.vue'

/** What it takes: what may be lost in each section, and where the next hours pay most. Nothing here is stored. */
const workspace = useWorkspace()
const found = shallowRef<Gap>()
const hours = ref<number>()
const wanted = ref<Record<string, number>>({})

const work = newestOnly(async () => {
  if (workspace.record)
    found.value = await core().gap(
      plain(workspace.record),
      plain(workspace.now),
      hours.value,
      plain(wanted.value),
    )
})
watch([() => workspace.record, hours, wanted], () => void work(), { immediate: true })

const section = (id: string) => workspace.exam!.sections.find((one) => one.id === id)!
const mostHours = computed(() => Math.max(20, Math.ceil(((found.value?.available ?? 20) * 2) / 10) * 10))
const topics = computed(() =>
  [...(found.value?.topics ?? [])].sort((a, b) => b.hours - a.hours || b.yield - a.yield),
)
const busiest = computed(() => Math.max(1, ...topics.value.map((topic) => topic.hours)))
function want(id: string, event: Event): void {
  const text = (event.target as HTMLInputElement).value
  const { [id]: _gone, ...rest } = wanted.value
  wanted.value = text === '' ? rest : { ...rest, [id]: Number(text) }
}
const hoursWords = (value: number) =>
  value === 0 ? 'there' : value < 0.5 ? 'under 1 h' : `${value.toFixed(0)} h`
</script>

<template>
  <div class="sheet stack">
    <h1 class="only-reader">Gap</h1>
    <v-skeleton-loader v-if="!found" type="image, list-item@6" />
    <template v-else>
      <h2>What may be lost</h2>
      <div class="budgets">
        <section v-for="gap in found.sections" :key="gap.section" class="stack">
          <div class="row">
            <h3>{{ section(gap.section).title }}</h3>
            <label class="small"
              >for
              <input
                class="figure"
                type="number"
                :value="wanted[gap.section] ?? Math.round(gap.wanted)"
                :aria-label="`${section(gap.section).title}: scaled score wanted`"
                @input="want(gap.section, $event)"
              />
            </label>
          </div>
          <LossBudget
            v-if="gap.strictest?.length"
            :gap="gap"
            :items="itemsOf(section(gap.section))"
            :title="section(gap.section).title"
          />
          <p v-else-if="gap.strictest" class="bad">
            Out of reach: even a full paper scores less on its table.
          </p>
          <p v-else class="soft small">
            Items here are marked differently, so one wrong answer has no single price; raw
            {{ rawWords(gap.rawNeeded ?? 0) }} is needed.
          </p>
          <p class="small">
            <template v-if="gap.rawNeeded !== undefined">Raw {{ rawWords(gap.rawNeeded) }} needed. </template>
            <template v-if="gap.last"
              >{{ dateWords(gap.last.of, workspace.today) }}: {{ gap.last.wrong }} wrong,
              {{ gap.last.blank }} blank.
            </template>
            Level today {{ Math.round(gap.today) }}, {{ Math.round(gap.later) }} after the hours below.
            <span v-if="gap.tables > 1" class="soft"
              >The strictest of {{ gap.tables }} tables; dashed, the easiest.</span
            >
          </p>
          <p v-if="gap.mustGive" class="small soft">
            For {{ workspace.analysis?.target }} in all it must give
            {{ Math.round(gap.mustGive.othersToday) }} if the others stay, or
            {{ Math.round(gap.mustGive.othersLater) }} if they rise too{{
              gap.cut === undefined ? '' : `; its cut is ${gap.cut}`
            }}.
          </p>
        </section>
      </div>
      <div class="row mt-3">
        <h2>Where the hours pay</h2>
        <label class="slider">
          <span class="only-reader">Hours to share out</span>
          <input
            type="range"
            min="0"
            :max="mostHours"
            step="1"
            :value="hours ?? Math.round(found.available)"
            @input="hours = Number(($event.target as HTMLInputElement).value)"
          />
        </label>
        <span data-testid="hours"
          ><strong>{{ found.hours.toFixed(0) }} h</strong> bring {{ found.points.toFixed(0) }} points</span
        >
        <v-btn v-if="hours !== undefined" @click="hours = undefined"
          >The {{ found.available.toFixed(0) }} h there are</v-btn
        >
      </div>
      <div class="scroll">
        <table class="lines small" data-testid="topics">
          <thead>
            <tr>
              <th>Topic</th>
              <th>Section</th>
              <th class="n">Known</th>
              <th class="n">Next hour</th>
              <th>Hours of these</th>
              <th class="n">To fair</th>
              <th class="n">To strong</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="topic in topics" :key="topic.id">
              <th scope="row">{{ topic.title }}</th>
              <td class="soft">{{ section(topic.section).title }}</td>
              <td class="n">{{ percentWords(topic.known) }}</td>
              <td class="n">{{ topic.yield.toFixed(2) }}</td>
              <td class="bar">
                <svg width="190" height="14" aria-hidden="true">
                  <rect x="0" y="2" :width="(150 * topic.hours) / busiest" height="10" class="hours" />
                  <rect v-if="topic.hours >= 1" x="0" y="2" :width="150 / busiest" height="10" class="next" />
                  <text :x="(150 * topic.hours) / busiest + 5" y="12" class="tick">
                    {{ topic.hours.toFixed(1) }} h
                  </text>
                </svg>
                <span class="only-reader">{{ topic.hours.toFixed(1) }} hours</span>
              </td>
              <td class="n">{{ hoursWords(topic.hoursToFair) }}</td>
              <td class="n">{{ hoursWords(topic.hoursToStrong) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="small soft">
        Next hour: scaled points that one more hour is expected to bring. The hours are shared out so that the
        last hour on every topic brings the same; the dark end of a bar is the first of them. Fair is half
        known, strong 85%.
      </p>
    </template>
  </div>
</template>

<style scoped>
.budgets {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 26px;
}
.slider input {
  width: 260px;
  accent-color: var(--ink);
  vertical-align: middle;
}
.hours {
  fill: var(--water);
  fill-opacity: 0.45;
}
.next {
  fill: var(--water);
}
.tick {
  font-size: 12px;
  fill: var(--ink);
}
th[scope='row'] {
  color: var(--ink);
  font-size: 14px;
}
</style>
