<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import type { Basis, PlanChange, PlanSession } from '@climber/contract'
import { isNothing, materialOf, type Replanned } from '@climber/core'
import { ApiFailure } from '../../api'
import ChoiceRow from '../../kit/ChoiceRow.vue'
import DateField from '../../kit/DateField.vue'
import { newestOnly } from '../../manners/newest'
import { dateWords, durationWords, percentWords } from '../../manners/words'
import { planSeed } from '../../stores/planChanges'
import { useWorkspace } from '../../stores/workspace'
import { plain } from '../../workers/core'

/**
 * What a re-plan would change, before it is accepted: sessions moved, added and dropped, and the odds with the plan
 * left as it is and mended. Days can be called off with it.
 */
const props = defineProps<{ change: PlanChange; anew?: boolean; reasons?: string[] }>()
const emit = defineEmits<{ close: [done?: string] }>()
const workspace = useWorkspace()
const from = ref<string>()
const to = ref<string>()
const mode = ref<'mend' | 'anew'>(props.anew ? 'anew' : 'mend')
/** The preview, and what it rests on: both go with its acceptance, so that what is stored is what was shown. */
const found = shallowRef<Replanned>()
const basis = shallowRef<Basis>()
const problem = ref('')
const working = ref(true)
const keeping = ref(false)
watch(
  () => props.change,
  (change) => {
    from.value = change.kind === 'off' ? change.from : undefined
    to.value = change.kind === 'off' ? change.to : undefined
  },
  { immediate: true },
)
const wanted = computed((): PlanChange => {
  if (!from.value) return { kind: 'none' }
  return { kind: 'off', from: from.value, to: to.value && to.value > from.value ? to.value : from.value }
})
const dateProblem = computed(() => {
  if (to.value && !from.value) return 'Say the first day too.'
  return to.value && from.value && to.value < from.value ? 'The last day comes before the first.' : ''
})
const modes = [
  { value: 'mend', title: 'Mend it: near days stay' },
  { value: 'anew', title: 'Make it anew from today' },
] as const
const work = newestOnly(async () => {
  if (!workspace.record || dateProblem.value) return
  working.value = true
  problem.value = ''
  try {
    const rests = workspace.basisNow()
    found.value = await workspace.ask('replan', planSeed, plain(wanted.value), mode.value)
    basis.value = rests
  } catch (error) {
    found.value = undefined
    problem.value = (error as Error).message
  }
  working.value = false
})
let resting: ReturnType<typeof setTimeout> | undefined
watch(
  [wanted, mode, () => workspace.record],
  () => {
    clearTimeout(resting)
    resting = setTimeout(() => void work(), 60)
  },
  { immediate: true },
)
onBeforeUnmount(() => clearTimeout(resting))
/** Nothing would change, no day is called off: there is nothing to accept. */
const nothing = computed(
  () => Boolean(found.value && isNothing(found.value.diff)) && wanted.value.kind === 'none',
)
const odds = (value: { odds?: number } | undefined) =>
  value?.odds === undefined ? '…' : percentWords(value.odds)
/** What a session held before: its material where it is called the same. */
function inPlaceOf(before: PlanSession, after: PlanSession): string {
  const title = workspace.titleOf(before)
  if (title !== workspace.titleOf(after)) return `in place of ${title}`
  const [was, is] = [materialOf(before)?.text, materialOf(after)?.text]
  return is ? `${is}${was ? `, not ${was}` : ''}` : `without ${was ?? 'what it held'}`
}
const lines = computed(() => {
  const diff = found.value?.diff
  if (!diff) return []
  const when = ({ date, start }: PlanSession) => `${dateWords(date)} ${start}`
  return [
    ...diff.moved.map(({ before, after }) => ({
      id: after.id,
      sort: after.date + after.start,
      what: 'moved',
      title: workspace.titleOf(after),
      words: `${when(before)} → ${when(after)}${after.minutes === before.minutes ? '' : `, ${durationWords(after.minutes)} instead of ${durationWords(before.minutes)}`}`,
    })),
    ...diff.changed.map(({ before, after }) => ({
      id: after.id,
      sort: after.date + after.start,
      what: 'changed',
      title: workspace.titleOf(after),
      words: `${when(after)}, ${inPlaceOf(before, after)}`,
    })),
    ...diff.added.map((session) => ({
      id: session.id,
      sort: session.date + session.start,
      what: 'added',
      title: workspace.titleOf(session),
      words: `${when(session)}, ${durationWords(session.minutes)}`,
    })),
    ...diff.dropped.map(({ session, why }) => ({
      id: session.id,
      sort: session.date + session.start,
      what: 'dropped',
      title: workspace.titleOf(session),
      words: `${when(session)}. ${why}`,
    })),
  ].sort((a, b) => a.sort.localeCompare(b.sort))
})
async function accept(): Promise<void> {
  keeping.value = true
  problem.value = ''
  try {
    await workspace.whenSaved()
    await workspace.replanNow(plain(wanted.value), mode.value, basis.value!)
    emit('close', 'The new plan is kept.')
  } catch (error) {
    problem.value = (error as ApiFailure).message
    // Something changed since the preview: what there is now is previewed afresh.
    if (error instanceof ApiFailure && error.code === 'conflict') {
      workspace.look()
      await workspace.reload().catch(() => undefined)
    }
  }
  keeping.value = false
}
</script>

<template>
  <section class="replan stack" aria-label="Re-plan" data-testid="replan">
    <div class="row">
      <h2>Re-plan</h2>
      <v-btn class="away" aria-label="Leave the plan as it is" @click="emit('close')">Leave it</v-btn>
    </div>
    <p v-if="reasons?.length" class="small" data-testid="why-mend">{{ reasons.join(' ') }}</p>
    <div class="days">
      <DateField
        v-model="from"
        label="Call off from"
        :today="workspace.today"
        :min="workspace.today"
        optional
      />
      <DateField
        v-model="to"
        label="to"
        :today="workspace.today"
        :min="workspace.today"
        :errors="dateProblem"
        optional
      />
    </div>
    <ChoiceRow v-model="mode" label="How" :options="modes" />
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <template v-if="found">
      <p>
        <span class="large figure-large" data-testid="replan-odds">{{ odds(found.after) }}</span>
        <span class="soft small"> for the target; {{ odds(found.before) }} if nothing is mended</span>
      </p>
      <p class="small" data-testid="replan-sum">
        {{ found.diff.moved.length }} moved,
        <template v-if="found.diff.changed.length">{{ found.diff.changed.length }} changed, </template
        >{{ found.diff.added.length }} added, {{ found.diff.dropped.length }} dropped,
        {{ found.diff.kept }} stay.
        <template v-if="found.mode === 'anew' && mode === 'mend'"
          >The plan was for another sitting, so it is made anew.</template
        >
      </p>
      <div v-if="lines.length" class="list" tabindex="0" role="region" aria-label="What changes">
        <table class="lines small">
          <tbody>
            <tr v-for="line in lines.slice(0, 200)" :key="line.id">
              <td class="what" :class="`what-${line.what}`">{{ line.what }}</td>
              <td>
                {{ line.title }}<br /><span class="soft">{{ line.words }}</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-else class="soft">Nothing needs to change.</p>
      <div class="row">
        <v-btn
          class="main"
          size="default"
          :loading="keeping"
          :disabled="working || Boolean(dateProblem) || nothing"
          @click="accept"
          >Accept</v-btn
        >
        <span class="soft small">Undo is there afterwards.</span>
      </div>
    </template>
  </section>
</template>

<style scoped>
.days {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.away {
  margin-left: auto;
}
.figure-large {
  font-size: 34px;
}
.what {
  width: 64px;
  vertical-align: top;
}
.what-moved {
  color: var(--water-text);
}
.what-changed {
  color: var(--ochre-text);
}
.what-added {
  color: var(--lichen-text);
}
.what-dropped {
  color: var(--clay-text);
}
.list {
  max-height: 46vh;
  overflow: auto;
}
</style>
