<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { PacingView } from '@climber/core'
import { newestOnly } from '../../manners/newest'
import { useWorkspace } from '../../stores/workspace'
import SheetHeads from '../../widgets/SheetHeads.vue'
import Budget from './Budget.vue'
import Compare from './Compare.vue'
import Drill from './Drill.vue'
import LeaveTimes from './LeaveTimes.vue'

/** One section at a time: its budget, when to leave an item, ways through compared, and practice at holding to it. */
const workspace = useWorkspace()
const route = useRoute()
const router = useRouter()
const views = [
  ['budget', 'Budget'],
  ['leave', 'When to leave'],
  ['compare', 'Ways compared'],
  ['drill', 'Drill'],
] as const
type View = (typeof views)[number][0]

const sections = computed(() => workspace.exam!.sections)
const section = computed(
  () => sections.value.find(({ id }) => id === route.query['section']) ?? sections.value[0]!,
)
const shown = computed<View>(() => views.find(([id]) => id === route.query['view'])?.[0] ?? 'budget')
const go = (query: { section?: string; view?: View }) =>
  void router.replace({ query: { section: section.value.id, view: shown.value, ...query } })

const stage = ref<string>()
const view = shallowRef<PacingView>()
const failed = ref('')
const work = newestOnly(async () => {
  try {
    const found = await workspace.ask('pacingView', section.value.id, stage.value)
    if (found?.section === section.value.id) view.value = found
    failed.value = ''
  } catch (error) {
    failed.value = (error as Error).message
  }
})
watch(section, () => {
  stage.value = undefined
  view.value = undefined
})
watch([() => workspace.record, section, stage, () => workspace.today], () => void work(), { immediate: true })
</script>

<template>
  <div class="sheet stack">
    <h1 class="only-reader">Pacing</h1>
    <SheetHeads
      label="Sections"
      panel="pace"
      :tabs="sections"
      :chosen="section.id"
      :views="views"
      :view="shown"
      @tab="(id) => go({ section: id })"
      @view="(id) => go({ view: id })"
    >
      <router-link class="small" :to="{ name: 'card', params: { candidateId: workspace.candidate!.id } }"
        >Pace card</router-link
      >
    </SheetHeads>
    <div id="pace" role="tabpanel" :aria-labelledby="`pace-${section.id}`">
      <p v-if="failed" class="bad" role="alert">{{ failed }}</p>
      <v-skeleton-loader v-else-if="!view" type="image, list-item@5" />
      <Budget
        v-else-if="shown === 'budget'"
        :key="section.id"
        :view="view"
        :section="section"
        @stage="stage = $event"
      />
      <LeaveTimes v-else-if="shown === 'leave'" :view="view" :section="section" />
      <Compare v-else-if="shown === 'compare'" :key="section.id" :view="view" :section="section" />
      <Drill v-else :key="section.id" :view="view" :section="section" />
    </div>
  </div>
</template>
