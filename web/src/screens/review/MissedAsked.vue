<script setup lang="ts">
import { computed, ref } from 'vue'
import { type MissedItem, reworkedRight } from '@climber/core'
import TextField from '../../kit/TextField.vue'
import { useDeedKeys } from '../../manners/deedKeys'
import { saidBeside } from '../../manners/saidBeside'
import AskedItem from '../../widgets/AskedItem.vue'
import StimulusText from '../../widgets/StimulusText.vue'
import type { Tried } from './again'
import { hiddenDeed, useAsked, useDoubts } from './asked'
import DoubtKeys from './DoubtKeys.vue'
import { usePlaceOf } from './place'

/** A missed item asked once more, without a clock: its answer is judged as it is given. One of these for each time. */
const props = defineProps<{ item: MissedItem }>()
const emit = defineEmits<{ took: [tried: Tried]; on: [] }>()
const { form, text, stimulus, letters } = useAsked(computed(() => props.item))
const doubts = useDoubts()
const { doubt, struck } = doubts
const own = ref<Tried>()
const shown = ref(false)
const typed = ref('')
const placeOf = usePlaceOf()
const place = computed(() => placeOf(props.item.topic))
const said = computed(() => own.value && saidBeside([props.item.key, 'key'], [own.value.answer, 'yours']))

function take(answer: string, judged?: boolean): void {
  if (own.value) return
  const right = judged ?? reworkedRight(props.item, { answer })
  // Where nobody knows the key, the candidate says how it came out.
  shown.value = right === undefined
  if (right === undefined) return
  const { value: confidence } = doubt
  own.value = { answer, right, seconds: doubts.seconds(), ...(confidence && { confidence }) }
  emit('took', own.value)
}
function on(): void {
  if (own.value) emit('on')
  else take('', false)
}
useDeedKeys((event) => {
  if (event.key === 'Enter' || event.key === ' ') return on
  return own.value ? undefined : hiddenDeed(event, letters.value, doubts, take)
})
</script>

<template>
  <StimulusText v-if="stimulus" :stimulus="stimulus" :pictures="form?.pictures" />
  <p v-if="!text?.text && place" class="small soft">{{ place }}</p>
  <AskedItem
    :text="text"
    :pictures="form?.pictures"
    :letters="letters"
    :chosen="own?.answer.toUpperCase()"
    :struck="struck"
    :said="said"
    @answer="take($event)"
    @strike="doubts.strike"
  />
  <form
    v-if="item.kind === 'numeric' && !own && !shown"
    class="row"
    novalidate
    @submit.prevent="take(typed.trim())"
  >
    <TextField v-model="typed" class="answer" label="Answer" />
    <v-btn type="submit" class="main">That is it</v-btn>
  </form>
  <div v-if="own" class="stack">
    <p data-testid="verdict">
      <strong :class="own.right ? 'good' : 'bad'">{{ own.right ? 'Right now.' : 'Missed again.' }}</strong>
      <template v-if="item.kind !== 'choice' && item.key"> The key is {{ item.key }}.</template>
      <template v-if="item.note?.next"> You wrote: next time I {{ item.note.next }}</template>
    </p>
    <div class="row">
      <button type="button" class="press strong" data-testid="on" @click="on()"><kbd>Enter</kbd> on</button>
    </div>
  </div>
  <div v-else-if="shown || (item.kind === 'written' && !letters.length)" class="row">
    <span class="small">Its key is not known. Look it up: did it come out right?</span>
    <button type="button" class="press" @click="take(typed, true)">right</button>
    <button type="button" class="press" @click="take(typed, false)">not</button>
  </div>
  <div v-else class="row">
    <DoubtKeys :doubt="doubt" @mark="doubts.mark" />
    <button type="button" class="press" @click="on()"><kbd>Enter</kbd> I do not know</button>
  </div>
</template>

<style scoped>
.answer {
  max-width: 280px;
}
</style>
