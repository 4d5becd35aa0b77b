<script setup lang="ts">
import { computed } from 'vue'
import { type Card, type StoredCard, notStaying } from '@climber/contract'
import { dateOf } from '@climber/core'
import { dateWords } from '../../manners/words'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import { usePlaceOf } from '../review/place'

/** A card that was forgotten again and again, looked at: why that is, and what is done about it. */
type Why = NonNullable<NonNullable<Card['looked']>['why']>
const props = defineProps<{ card: StoredCard; lapses: number }>()
const emit = defineEmits<{ other: [] }>()
const why = defineModel<Why>()
const workspace = useWorkspace()
const recall = useRecall()
const answers = computed(() => recall.histories.get(props.card.id)?.answers ?? [])
const forgotten = computed(() =>
  answers.value
    .filter(([, grade]) => grade === 1)
    .slice(-5)
    .map(([day]) => dateWords(dateOf(day), workspace.today)),
)
const placeOf = usePlaceOf()
const place = computed(() => placeOf(props.card.topic))
const advice: Record<Why, string> = {
  'too much at once': 'Leave here what one answer holds, and write the rest as a card of its own.',
  'never understood': 'What is not understood does not stay. Read first; the card rests for three days.',
  'mixed up with another': 'Say on the back what tells the two apart, or ask for just that on another card.',
  'not needed': 'Then it costs more than it brings: it is kept, and no longer asked.',
}
const other = {
  'too much at once': 'Write the other half',
  'mixed up with another': 'Ask what tells them apart',
}
</script>

<template>
  <section class="stack" aria-label="Why does it not stay?">
    <p>
      Forgotten <strong>{{ lapses }} times</strong> in {{ answers.length }} answers<template
        v-if="forgotten.length"
        >, last on {{ forgotten.join(', ') }}</template
      >. One more answer will not help.
    </p>
    <div class="row" role="group" aria-label="Why does it not stay?">
      <button
        v-for="one in notStaying"
        :key="one"
        type="button"
        class="press"
        :aria-pressed="why === one"
        @click="why = why === one ? undefined : one"
      >
        {{ one }}
      </button>
    </div>
    <template v-if="why">
      <p>
        {{ advice[why] }}
        <template v-if="why === 'never understood'">
          <template v-if="place"> It is treated in {{ place }}.</template>
          <router-link
            v-if="card.of"
            :to="{ name: 'review', params: { attemptId: card.of.attempt }, query: { item: card.of.item } }"
          >
            Look at the item it was made of.</router-link
          ></template
        >
      </p>
      <div v-if="why === 'too much at once' || why === 'mixed up with another'" class="row">
        <v-btn @click="emit('other')">{{ other[why] }}</v-btn>
      </div>
    </template>
  </section>
</template>
