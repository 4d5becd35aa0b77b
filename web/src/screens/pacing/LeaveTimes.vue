<script setup lang="ts">
import { computed } from 'vue'
import type { Section } from '@climber/contract'
import { classTitle, hazard, hazardPeak, leaveWords, type PacingView } from '@climber/core'
import { vCards } from '../../kit/cards'
import SortHead from '../../kit/SortHead.vue'
import { sorted } from '../../kit/sorting'
import { clockWords, dateWords, onTheClock, percentWords, spanWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import WhereFrom from '../../widgets/WhereFrom.vue'
import Hazard from './Hazard.vue'
import { useWishes } from './wishes'

/** When to leave each kind of item, the times through the section, and what obeying would have gained. */
const props = defineProps<{ view: PacingView; section: Section }>()
const workspace = useWorkspace()
const { wish, change } = useWishes(computed(() => props.section))
const groups = computed(() => [
  ...props.section.groups.map(({ id }) => id),
  ...(props.section.stages?.[props.view.stage]?.groups ?? []).map(({ id }) => id),
])
const lines = computed(() => props.view.classes.filter(({ count }) => count > 0))
const passes = computed(() => wish.value.passes ?? 2)
const firstLeg = computed(() => props.view.passes.filter(({ leg }) => leg === 0))
const rest = computed(() => {
  const last = firstLeg.value[firstLeg.value.length - 1]
  return last && props.view.pace ? props.view.pace.workingSeconds - last.to : 0
})
const perMinute = computed(() => props.view.mu * 60)
/** One scale for all rows. */
const longest = computed(() => Math.max(30, ...lines.value.map(({ median }) => 3.2 * median)))
const highest = computed(() =>
  Math.max(props.view.mu, ...lines.value.map((one) => one.worth * hazard(one, hazardPeak(one)))),
)
const measured = computed(() => lines.value.reduce((sum, { items }) => sum + items, 0))
const { rows: traces, head } = sorted(() => [...props.view.traces].reverse(), {
  date: (trace) => trace.date,
  notReached: (trace) => trace.notReached,
  items: (trace) => trace.obeying.items,
  saved: (trace) => trace.obeying.saved,
  forgone: (trace) => trace.obeying.forgone,
  marks: (trace) => trace.obeying.marks,
})
</script>

<template>
  <div v-if="view.problem" class="bad" role="alert">{{ view.problem.message }}</div>
  <div v-else class="stack">
    <p class="say">
      <template v-if="view.mu > 0"
        >A minute is worth
        <WhereFrom label="What a minute is worth">
          <template #figure
            ><strong data-testid="mu">{{ perMinute.toFixed(2) }} marks</strong></template
          >
          mu, the marks that one more second brings at the margin, is {{ view.mu.toFixed(5) }}: at it the
          expected times of all items add up to {{ Math.round(view.expected) }} of the
          {{ Math.round(view.available) }} seconds there are. An item is left when its chance of being solved
          in the next second, times what solving it adds, falls below mu.
        </WhereFrom>
        elsewhere in this section. An item that will not bring that is left.</template
      >
      <template v-else
        >There is time enough for everything here: stay with an item while you get on with it.</template
      >
    </p>
    <div class="scroll">
      <table v-cards class="lines as-cards" data-testid="leave-times">
        <thead>
          <tr>
            <th>Items</th>
            <th class="n">How many</th>
            <th class="n">Can be solved</th>
            <th class="n">Half of those within</th>
            <th class="n">Budget each</th>
            <th class="rule-head">Rule</th>
            <th>Marks a minute, second by second</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in lines" :key="one.id">
            <th scope="row">{{ classTitle(one, groups) }}</th>
            <td class="n">{{ one.count }}</td>
            <td class="n">
              <WhereFrom :label="`${classTitle(one, groups)}: can be solved`">
                <template #figure>{{ percentWords(one.p) }}</template>
                Expected from what is known: {{ percentWords(one.expected.p) }}, half of them within
                {{ clockWords(one.expected.median) }}.
                {{
                  one.items
                    ? `${one.items} items of your tests and drills moved it; given up ones count as not solved by then.`
                    : 'No item of yours was timed yet.'
                }}
              </WhereFrom>
            </td>
            <td class="n">{{ clockWords(one.median) }}</td>
            <td class="n soft">{{ clockWords(one.budget) }}</td>
            <td>
              <strong>{{ leaveWords(one) }}</strong>
              <span v-if="passes > 1 && one.deferred" class="small soft block"
                >go past in the first pass</span
              >
            </td>
            <td><Hazard :line="one" :mu="view.mu" :until="longest" :highest="highest" /></td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="small soft">
      {{
        measured
          ? 'Times and results of your own, drawn towards what the exam lets expect while they are few.'
          : 'What the exam lets expect: three quarters of the budget for half of those that can be solved. Your own times take its place as tests and drills come in.'
      }}
    </p>

    <div class="habit mt-3">
      <label id="passes-label">Times through</label>
      <div class="row">
        <span class="rating" role="group" aria-labelledby="passes-label">
          <button
            v-for="count in [1, 2, 3] as const"
            :key="count"
            type="button"
            :aria-pressed="passes === count"
            @click="change((next) => (next.passes = count))"
          >
            {{ ['once', 'twice', 'three times'][count - 1] }}
          </button>
        </span>
        <span class="small soft"
          >two by default: it guards the good items at the end against a slow start</span
        >
      </div>
    </div>
    <svg v-if="view.pace" class="passes" viewBox="0 0 1000 34" preserveAspectRatio="none" aria-hidden="true">
      <rect
        v-for="(pass, at) in firstLeg"
        :key="at"
        :x="(1000 * pass.from) / view.pace.workingSeconds"
        :width="Math.max(1, (1000 * (pass.to - pass.from)) / view.pace.workingSeconds)"
        y="4"
        height="26"
        :class="`pass p${at}`"
      />
    </svg>
    <ul class="pass-list small" data-testid="passes">
      <li v-for="(pass, at) in firstLeg" :key="at">
        <strong>{{ ['First', 'Second', 'Third', 'Last'][at] }} time through</strong>
        {{ spanWords(pass.to - pass.from)
        }}<template v-if="view.clock"
          >, to about {{ onTheClock(view.clock.start, pass.to).slice(0, 5) }}</template
        >
      </li>
      <li v-if="rest >= 30">{{ spanWords(rest) }} are left over on average</li>
    </ul>
    <p class="small soft">
      Mean of 1000 simulated sittings. Mark what you leave: ? when it is between two, ○ when there is no idea.
    </p>

    <template v-if="view.traces.length">
      <h2 class="mt-3">Had you left in time</h2>
      <div class="scroll">
        <table v-cards class="lines as-cards three" data-testid="obeying">
          <thead>
            <tr>
              <SortHead :head="head" by="date">Test</SortHead>
              <SortHead class="n" :head="head" by="notReached">Not reached</SortHead>
              <SortHead class="n" :head="head" by="items">Stayed too long on</SortHead>
              <SortHead class="n" :head="head" by="saved">That cost</SortHead>
              <SortHead class="n" :head="head" by="forgone">Solved late, given up then</SortHead>
              <SortHead class="n" :head="head" by="marks">Worth</SortHead>
            </tr>
          </thead>
          <tbody>
            <tr v-for="trace in traces" :key="trace.id">
              <th scope="row">
                {{ trace.title }}
                <span v-if="trace.date" class="small soft">{{ dateWords(trace.date, workspace.today) }}</span>
              </th>
              <td class="n">{{ trace.notReached || '' }}</td>
              <td class="n">{{ trace.obeying.items }} items</td>
              <td class="n">{{ spanWords(trace.obeying.saved) }}</td>
              <td class="n">
                {{ trace.obeying.forgone ? `${trace.obeying.forgone.toFixed(1)} marks` : '' }}
              </td>
              <td class="n">
                <strong :class="trace.obeying.marks > 0 ? 'good' : 'bad'"
                  >{{ trace.obeying.marks > 0 ? '+' : '' }}{{ trace.obeying.marks.toFixed(1) }} marks</strong
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="small soft">
        Seconds spent past the leave time at {{ perMinute.toFixed(2) }} marks a minute, less what was solved
        after it. An estimate: nobody knows what those minutes would have met.
      </p>
    </template>
  </div>
</template>

<style scoped>
.say {
  font-size: 16px;
}
td,
th {
  vertical-align: middle !important;
}
@media (min-width: 701px) {
  .rule-head,
  .rule-head ~ th,
  td.n + td:not(.n) {
    padding-left: 16px !important;
  }
}
.block {
  display: block;
}
.passes {
  width: 100%;
  height: 34px;
}
.pass {
  stroke: var(--ink);
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.p0 {
  fill: var(--wash);
}
.p1 {
  fill: var(--faint);
}
.p2 {
  fill: var(--hair);
}
.pass-list {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 26px;
}
</style>
