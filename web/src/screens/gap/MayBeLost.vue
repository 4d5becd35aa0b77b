<script setup lang="ts">
import { itemsOf, type SectionGap } from '@climber/core'
import NumberField from '../../kit/NumberField.vue'
import { dateWords, rawWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'
import LossBudget from './LossBudget.vue'

/** What may be lost in each section and still reach a score in it: a picture each, and what its marks stand for. */
defineProps<{ sections: SectionGap[]; wanted: Record<string, number> }>()
defineEmits<{ want: [section: string, score: number | undefined] }>()
const workspace = useWorkspace()
const section = (id: string) => workspace.exam!.sections.find((one) => one.id === id)!
</script>

<template>
  <h2>What may be lost</h2>
  <div class="budgets">
    <section
      v-for="gap in sections"
      :key="gap.section"
      class="stack"
      :aria-label="section(gap.section).title"
    >
      <div class="head">
        <h3>{{ section(gap.section).title }}</h3>
        <NumberField
          quiet
          :label="`${section(gap.section).title}: scaled score wanted`"
          :min="gap.low"
          :max="gap.high"
          optional
          :placeholder="String(Math.round(gap.wanted))"
          :model-value="wanted[gap.section]"
          @update:model-value="$emit('want', gap.section, $event)"
        />
        <span class="small soft">or more</span>
      </div>
      <LossBudget
        v-if="gap.strictest?.length"
        :gap="gap"
        :items="itemsOf(section(gap.section))"
        :title="section(gap.section).title"
      />
      <p v-else-if="gap.strictest" class="bad">Out of reach: even a full paper scores less on its table.</p>
      <table v-else-if="gap.stages" class="lines small">
        <thead>
          <tr>
            <th>Second stage</th>
            <th class="n">First stage from</th>
            <th class="n">Both together</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="stage in gap.stages" :key="stage.stage">
            <th scope="row">
              {{ section(gap.section).stages?.find(({ id }) => id === stage.stage)?.title }}
            </th>
            <td class="n">{{ stage.first === undefined ? 'any' : rawWords(stage.first) }}</td>
            <td class="n">
              <span v-if="stage.raw === undefined" class="bad">its table ends lower</span
              ><template v-else>raw {{ rawWords(stage.raw) }}</template>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else-if="gap.rawNeeded === undefined" class="bad">
        Out of reach: on one of its tables even a full paper scores less.
      </p>
      <p v-else class="small">
        Up to <strong>{{ rawWords(gap.fullMarks - gap.rawNeeded) }}</strong> of
        {{ rawWords(gap.fullMarks) }} marks may be lost.
        <span class="soft">Items here are worth different marks, so a wrong answer has no single price.</span>
      </p>
      <dl class="small">
        <template v-if="gap.rawNeeded !== undefined">
          <dt>Needed</dt>
          <dd>Raw {{ rawWords(gap.rawNeeded) }} needed</dd>
        </template>
        <template v-if="gap.last">
          <dt>
            <svg width="12" height="12" aria-hidden="true"><circle cx="6" cy="6" r="5" /></svg>
          </dt>
          <dd>
            {{ dateWords(gap.last.of, workspace.today) }}: {{ gap.last.wrong }} wrong,
            {{ gap.last.blank }} blank
          </dd>
        </template>
        <template v-if="gap.expected">
          <dt>
            <svg width="12" height="12" aria-hidden="true"><circle cx="6" cy="6" r="4.5" class="ring" /></svg>
          </dt>
          <dd>
            a paper today: about {{ Math.round(gap.expected.wrong) }} wrong,
            {{ Math.round(gap.expected.blank) }} blank
          </dd>
        </template>
        <template v-if="gap.tables > 1">
          <dt>
            <svg width="12" height="12" aria-hidden="true"><line x1="0" x2="12" y1="6" y2="6" /></svg>
          </dt>
          <dd>the easiest of {{ gap.tables }} tables; filled, the strictest</dd>
        </template>
        <dt>Level</dt>
        <dd>
          {{ Math.round(gap.today) }} today, {{ Math.round(gap.later) }} after the hours below{{
            gap.cut === undefined ? '' : `; its cut is ${gap.cut}`
          }}
        </dd>
      </dl>
    </section>
  </div>
</template>

<style scoped>
.budgets {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 26px;
}
.head {
  display: grid;
  grid-template-columns: auto 80px auto 1fr;
  gap: 10px;
  align-items: baseline;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 10px;
  margin: 0;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
circle {
  fill: var(--ink);
}
.ring {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
line {
  stroke: var(--lichen);
  stroke-dasharray: 3 3;
}
</style>
