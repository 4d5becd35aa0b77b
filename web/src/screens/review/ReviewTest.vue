<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { recordRights } from '@climber/contract'
import type { ReviewView } from '@climber/core'
import { newestOnly } from '../../manners/newest'
import { dateWords, durationWords } from '../../manners/words'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import Finished from './Finished.vue'
import ItemsToReview from './ItemsToReview.vue'
import QuickCauses from './QuickCauses.vue'
import SharePanel from './SharePanel.vue'
import WorkOff from './WorkOff.vue'
import { useReview } from './working'

/** One review: the items worth a look as a list to work off, and what they come to. */
const props = defineProps<{ attempt: string }>()
const workspace = useWorkspace()
const route = useRoute()
const view = shallowRef<ReviewView>()
const missing = ref(false)
const look = newestOnly(async () => {
  const found = await workspace.ask('reviewView', props.attempt)
  if (!workspace.record) return
  view.value = found
  missing.value = !found
})
watch([() => props.attempt, () => workspace.record], () => void look(), { immediate: true })
const work = ref<{ focusNext: () => void; makeCard: () => void }>()
void useRecall().load()
const reviewing = useReview(
  view,
  () => work.value?.focusNext(),
  () => work.value?.makeCard(),
  () => Number(route.query.item) || undefined,
)
const { at, items, finished, notes } = reviewing
const listing = ref(false)
/** What is open under the head. */
const panel = ref<'number' | 'share'>()
const turn = (which: 'number' | 'share') => void (panel.value = panel.value === which ? undefined : which)
const rights = computed(() => recordRights[workspace.candidate!.role])
const mayShare = computed(() => rights.value.includes('share'))
const mayWork = computed(() => rights.value.includes('work'))
const candidateId = computed(() => workspace.candidate!.id)
/** As this page knows it; the worker is asked behind. */
const done = computed(() => items.value.filter(({ item }) => notes.value.get(item)?.reviewedOn).length)
const used = computed(() => {
  const seconds = [...notes.value.values()].reduce((sum, note) => sum + (note.seconds ?? 0), 0)
  return Math.max(view.value?.usedMinutes ?? 0, seconds / 60)
})
const minutes = computed(() => {
  const { bookedMinutes = 0, expectedMinutes } = view.value ?? {}
  const spent = `${durationWords(used.value)} used`
  const of = bookedMinutes ? ` of ${durationWords(bookedMinutes)} booked` : ''
  const needs = expectedMinutes === undefined ? '' : `; ${durationWords(expectedMinutes)} at your pace`
  return spent + of + needs
})
function take(item: number): void {
  listing.value = false
  reviewing.go(item)
}
</script>

<template>
  <div class="review-test">
    <p v-if="missing" class="sheet" role="alert">
      There is no such test here.
      <router-link :to="{ name: 'review', params: { candidateId } }">All reviews</router-link>
    </p>
    <v-skeleton-loader v-else-if="!view" type="list-item@8" class="sheet" />
    <template v-else>
      <header class="row top">
        <router-link class="small" :to="{ name: 'review', params: { candidateId } }">Reviews</router-link>
        <h1>
          {{ view.title
          }}<span v-if="view.date" class="soft date">, {{ dateWords(view.date, workspace.today) }}</span>
        </h1>
        <span class="small" data-testid="progress">{{ done }} of {{ items.length }} done</span>
        <span v-if="!mayWork" class="small soft">You read this review; what you press here is not kept.</span>
        <span class="small soft minutes">{{ minutes }}</span>
        <span class="row tools">
          <v-btn class="listing" @click="listing = !listing">{{ listing ? 'Close the list' : 'List' }}</v-btn>
          <v-btn v-if="mayWork" :aria-pressed="panel === 'number'" @click="turn('number')">By number</v-btn>
          <v-btn v-if="mayShare" :aria-pressed="panel === 'share'" @click="turn('share')">Share</v-btn>
          <v-btn :to="{ name: 'review-print', params: { candidateId, attemptId: view.id } }">Print</v-btn>
        </span>
      </header>
      <QuickCauses v-if="panel === 'number'" :view="view" @done="panel = undefined" />
      <SharePanel v-if="panel === 'share'" :attempt="view.id" @close="panel = undefined" />
      <div class="body">
        <ItemsToReview
          :class="{ shown: listing }"
          class="list"
          :items="items"
          :others="view.others"
          :notes="notes"
          :current="finished ? undefined : at"
          :ended="finished || !reviewing.item.value"
          @take="take"
          @end="((listing = false), reviewing.go(undefined))"
        />
        <section class="main-piece" aria-label="The review">
          <p v-if="!items.length && !view.others.length" class="stack">
            <span>Of this test only counts are known, no single items.</span>
            <span class="soft"
              >Write down causes by item number, or log its answers in Scores: then the items worth a look are
              here.</span
            >
          </p>
          <Finished
            v-else-if="finished || !reviewing.item.value"
            :view="view"
            :notes="notes"
            :used="used"
            @back="take"
          />
          <WorkOff v-else ref="work" :view="view" :reviewing="reviewing" />
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.review-test {
  display: grid;
  grid-template-rows: auto;
  align-content: start;
}
.top {
  padding: 10px 22px;
  border-bottom: 1px solid var(--hair);
  align-items: center;
}
.top h1 {
  font-size: 18px;
}
.date {
  font-weight: 400;
}
.tools {
  margin-left: auto;
  gap: 6px;
}
.listing {
  display: none;
}
.body {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
}
/* The list goes along beside the item, and has a scroll of its own. */
.list {
  border-right: 1px solid var(--hair);
  position: sticky;
  top: 0;
  max-height: calc(100vh - 222px);
  overflow-y: auto;
}
.main-piece {
  padding: 14px 22px 30px;
}
@media (max-width: 700px) {
  .top {
    padding: 8px 12px;
    gap: 6px 12px;
  }
  .listing {
    display: inline-flex;
  }
  .minutes {
    width: 100%;
    order: 9;
  }
  .body {
    grid-template-columns: minmax(0, 1fr);
  }
  .list {
    display: none;
    border-right: 0;
    position: static;
    max-height: none;
  }
  .list.shown {
    display: grid;
  }
  .list.shown + .main-piece {
    display: none;
  }
  .main-piece {
    padding: 10px 12px 90px;
  }
}
</style>
