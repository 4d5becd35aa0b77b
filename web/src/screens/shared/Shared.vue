<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRoute } from 'vue-router'
import type { Comment, SharedItem, SharedReview } from '@climber/contract'
import { causeTitle, lettersOf } from '@climber/core'
import { type ApiFailure, call } from '../../api'
import { saidBeside } from '../../manners/saidBeside'
import { dateWords } from '../../manners/words'
import { useSession } from '../../stores/session'
import AskedItem from '../../widgets/AskedItem.vue'
import CommentList from '../../widgets/CommentList.vue'
import PageFrame from '../../widgets/PageFrame.vue'
import StimulusText from '../../widgets/StimulusText.vue'

/** The review of somebody else that was shared: two who prepare together look at it, and talk of it. */
const route = useRoute()
const session = useSession()
const token = computed(() => String(route.params.token))
const review = shallowRef<SharedReview>()
const problem = ref('')
async function tried(work: () => Promise<SharedReview>): Promise<void> {
  problem.value = ''
  try {
    review.value = await work()
  } catch (error) {
    const { code, message } = error as ApiFailure
    problem.value =
      code === 'not-found'
        ? 'This address was ended, or is of another workspace. Ask for a new one.'
        : message
  }
}
onMounted(() => tried(() => call('readShared', { token: token.value })))
const today = computed(() => session.now().slice(0, 10))
const titleOf = computed(() => {
  const { title, date } = review.value ?? { title: 'A shared review', date: null }
  return date ? `${title}, ${dateWords(date, today.value)}` : title
})
const textOf = ({ group, at = 0 }: SharedItem) =>
  group === undefined ? undefined : review.value?.form?.items?.[group]?.[at]
const stimulusOf = (item: SharedItem) =>
  review.value?.form?.stimuli?.find(({ id }) => id === textOf(item)?.stimulus)
const opened = ref(new Set<number>())
const none = new Set<string>()
const saidOf = ({ key, answer, note }: SharedItem): ReadonlyMap<string, string> =>
  saidBeside([key, 'key'], [answer, 'then'], [note?.rework?.answer, 'without the clock'])
const say = (item: number, commentId: string, text: string | null) =>
  tried(() => call('commentShared', { token: token.value, item, commentId }, { text }))
const isMine = ({ user }: Comment): boolean => user === session.user?.id
function turn(item: number): void {
  if (!opened.value.delete(item)) opened.value.add(item)
}
const fresh = () => crypto.randomUUID()
</script>

<template>
  <PageFrame :title="titleOf">
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-skeleton-loader v-if="!review && !problem" type="list-item@6" />
    <template v-else-if="review">
      <p class="soft">
        The review of {{ review.candidate }},
        {{ review.mode === 'comment' ? 'to read and to comment on' : 'to read' }}:
        {{ review.items.length }} items worth a look, in the order that pays.
      </p>
      <ol class="shared">
        <li v-for="item in review.items" :key="item.item">
          <div class="row">
            <strong class="large number">{{ item.item }}</strong>
            <span
              ><strong>{{ item.topic || 'No topic' }}</strong
              ><br /><span class="small soft"
                >{{ item.answer || 'no answer' }}, key {{ item.key || 'not known' }}, {{ item.outcome
                }}<template v-if="item.note?.cause">; {{ causeTitle(item.note.cause) }}</template></span
              ></span
            >
            <v-btn
              v-if="textOf(item)?.text"
              :aria-expanded="opened.has(item.item)"
              @click="turn(item.item)"
              >{{ opened.has(item.item) ? 'Hide the item' : 'Show the item' }}</v-btn
            >
          </div>
          <div v-if="opened.has(item.item)" class="stack">
            <StimulusText
              v-if="stimulusOf(item)"
              :stimulus="stimulusOf(item)!"
              :pictures="review.form?.pictures"
            />
            <AskedItem
              :text="textOf(item)"
              :pictures="review.form?.pictures"
              :letters="[...lettersOf(item.choices ?? 0)]"
              :chosen="item.key.toUpperCase()"
              :struck="none"
              :said="saidOf(item)"
            />
          </div>
          <p v-if="item.note?.next">Next time I {{ item.note.next }}</p>
          <p v-if="item.note?.text" class="small">{{ item.note.text }}</p>
          <CommentList
            :comments="item.note?.comments ?? []"
            :today="today"
            :mine="isMine"
            :closed="review.mode !== 'comment'"
            @say="say(item.item, fresh(), $event)"
            @take="say(item.item, $event, null)"
          />
        </li>
      </ol>
    </template>
  </PageFrame>
</template>

<style scoped>
.shared {
  list-style: none;
  margin: 0;
  padding: 0;
  max-width: 60em;
}
.shared li {
  border-top: 1px solid var(--hair);
  padding: 8px 0;
  display: grid;
  gap: 6px;
}
.row {
  align-items: center;
}
.number {
  font-size: 28px;
  min-width: 48px;
}
</style>
