<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { guessValue, type Room, type RoomView } from '@climber/core'
import { clockWords } from '../../manners/words'
import type { Attending } from '../../stores/attending'
import AskedItem from '../../widgets/AskedItem.vue'
import FormText from '../../widgets/FormText.vue'
import ItemList from './ItemList.vue'
import PaceRail from './PaceRail.vue'
import { useSounds } from './sounds'
import { useWorking } from './working'

/** A section that runs: its clock, the item, the keys to answer it, the rail; nothing else unless asked for. */
const props = defineProps<{ attending: Attending; room: Room; view?: RoomView; ends?: string }>()
const emit = defineEmits<{ stop: []; away: []; finish: []; drop: [] }>()
const working = useWorking(
  props.attending,
  () => props.room,
  () => props.view,
)
const {
  listing,
  menu,
  typed,
  told,
  part,
  onPaper,
  byCheckpoints,
  items,
  firstStage,
  stages,
  item,
  text,
  stimulus,
  letters,
  rail,
  left,
  lastMinutes,
  nextCheckpoint,
} = working
const sound = ref(props.room.setup.sound)
useSounds(working, () => sound.value)

const state = computed(() => props.attending.state.value!)
const count = computed(() => props.room.parts.length)
const number = ref('')
const numberField = ref<{ focus: () => void }>()
watch(
  () => [item.value?.item, item.value?.answer],
  () => (number.value = item.value?.answer ?? ''),
  { immediate: true },
)
// By keyboard one types at once; on a phone nothing springs up unasked.
watch(
  () => item.value?.item,
  () => {
    if (item.value?.group.kind !== 'numeric' || !matchMedia('(hover: hover)').matches) return
    void nextTick(() => numberField.value?.focus())
  },
  { immediate: true },
)
const shown = computed(() => (left.value === undefined ? undefined : clockWords(Math.floor(left.value))))
const spent = computed(() => clockWords(Math.floor(rail.value?.spent ?? 0)))
/** Said aloud, now and then and not every second. */
const said = computed(() => {
  const minutes = left.value === undefined ? undefined : Math.ceil(left.value / 60)
  const near =
    minutes !== undefined && [10, 5, 2, 1].includes(minutes)
      ? `${minutes} ${minutes === 1 ? 'minute' : 'minutes'} left. `
      : ''
  return (
    near +
    told.value +
    (item.value ? `Item ${item.value.item} of ${items.value[items.value.length - 1]!.item}` : '')
  )
})
const guessing = ref(false)
/** What a blind guess earns, and one among fewer options. */
const rule = computed(() => {
  const group = item.value?.group ?? items.value[0]?.group
  if (group?.kind !== 'choice') return []
  const { choices = 4, perRight, perWrong } = group
  return Array.from({ length: choices - 1 }, (_, struck) => ({
    options: choices - struck,
    value: guessValue(choices - struck, perRight, perWrong) - (group.perBlank ?? 0),
  }))
})
const signed = (value: number) =>
  Math.abs(value) < 0.005 ? '0' : `${value > 0 ? '+' : '−'}${Math.abs(value).toFixed(2)}`
const chosen = (letter: string) => item.value?.answer === letter
const ending = computed(() => (firstStage.value ? 'the first part' : part.value!.part.title))
</script>

<template>
  <div v-if="part" class="working" :class="{ paper: onPaper, beside: stimulus }">
    <p class="only-reader" role="status" aria-live="polite">{{ said }}</p>
    <header class="head">
      <div class="where">
        <span class="title">{{ part.part.title }}</span>
        <span class="small soft"
          ><template v-if="count > 1">{{ state.at + 1 }} of {{ count }}</template
          ><template v-if="ends">{{ count > 1 ? ', ' : '' }}bell at {{ ends }}</template
          ><template v-if="!part.part.timed"
            >untimed, {{ clockWords(part.part.seconds) }} suggested</template
          ></span
        >
      </div>
      <div class="place large" data-testid="place">
        <template v-if="item"
          ><span class="soft of">item</span> {{ item.item }}
          <span class="soft of total">of {{ items[items.length - 1]!.item }}</span></template
        >
      </div>
      <div class="clock large" :class="{ near: lastMinutes }" data-testid="clock">
        <span class="only-reader">{{ shown ? 'Time left' : 'Time spent' }}</span>{{ shown ?? spent }}
      </div>
      <v-btn variant="text" aria-label="Menu: keys, stop, leave" @click="menu = !menu">Menu</v-btn>
    </header>
    <PaceRail v-if="rail" class="rail" :rail="rail" />
    <PaceRail v-if="rail" class="rail thin" :rail="rail" flat />

    <main class="middle">
      <template v-if="byCheckpoints">
        <div class="checkpoint stack">
          <p class="large big">{{ nextCheckpoint }}</p>
          <p v-if="rail?.next">
            is to be done by {{ clockWords(rail.next.seconds) }} on the section's clock.
          </p>
          <p v-else>is the last.</p>
          <div>
            <v-btn size="x-large" class="main" @click="working.checkpoint()"
              >Done up to {{ nextCheckpoint }}</v-btn
            >
          </div>
          <table v-if="part.checkpoints.length" class="lines small">
            <tbody>
              <tr v-for="one in part.checkpoints" :key="one.item">
                <th scope="row">Item {{ one.item }}</th>
                <td class="n">{{ clockWords(one.seconds) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
      <template v-else-if="item">
        <section
          v-if="stimulus"
          class="stimulus"
          tabindex="0"
          :aria-label="stimulus.title ?? 'What it is about'"
        >
          <h2 v-if="stimulus.title">{{ stimulus.title }}</h2>
          <FormText :text="stimulus.text" :pictures="room.form?.pictures" />
        </section>
        <section class="item" :aria-label="`Item ${item.item}`">
          <AskedItem
            v-if="letters.length || !onPaper"
            :text="onPaper ? undefined : text"
            :pictures="room.form?.pictures"
            :letters="letters"
            :chosen="item.answer"
            :struck="item.struck"
            @answer="working.answer(chosen($event) ? '' : $event, !chosen($event))"
            @strike="working.strike"
          />
          <form
            v-if="item.group.kind === 'numeric'"
            class="row"
            novalidate
            @submit.prevent="working.answer(number.trim())"
          >
            <v-text-field
              ref="numberField"
              v-model="number"
              class="number"
              label="Answer"
              maxlength="40"
              autocomplete="off"
              inputmode="decimal"
              hint="Enter answers; ? marks a doubt; arrows up and down go about"
            />
            <v-btn type="submit" class="main">Answer</v-btn>
          </form>
          <p v-else-if="!letters.length && !onPaper" class="soft">
            Write it on paper; it is marked afterwards.
          </p>
        </section>
      </template>
    </main>

    <footer v-if="!byCheckpoints && item" class="foot">
      <div class="group" role="group" aria-label="How sure">
        <button
          type="button"
          class="key doubt"
          :aria-pressed="item.confidence === 'between two'"
          @click="working.doubt('between two')"
        >
          <span class="sign">?</span> between two
        </button>
        <button
          type="button"
          class="key doubt"
          :aria-pressed="item.confidence === 'no idea'"
          @click="working.doubt('no idea')"
        >
          <span class="sign">0</span> no idea
        </button>
      </div>
      <div class="group moves">
        <button type="button" class="key" aria-label="Back one item" @click="working.on(-1)">←</button>
        <button type="button" class="key" @click="working.leave()">Leave it</button>
        <button v-if="onPaper || !letters.length" type="button" class="key strong" @click="working.done()">
          Done
        </button>
        <button v-else type="button" class="key" aria-label="Next item" @click="working.on()">→</button>
        <button type="button" class="key" data-testid="list" @click="listing = true">All items</button>
      </div>
      <span v-if="typed" class="typed" role="status">to item {{ typed }}, Enter</span>
      <button v-if="lastMinutes && rule.length" type="button" class="key" @click="guessing = !guessing">
        Items left: guess?
      </button>
    </footer>
    <footer v-else class="foot">
      <button type="button" class="key" data-testid="list" @click="listing = true">All items</button>
    </footer>

    <aside v-if="guessing && lastMinutes" class="asked-for stack" aria-label="Guessing">
      <p class="small">On average a guess against a blank earns:</p>
      <table class="lines small">
        <tbody>
          <tr v-for="one in rule" :key="one.options">
            <th scope="row">{{ one.options }} options left</th>
            <td class="n" :class="one.value > 0.005 ? 'good' : one.value < -0.005 ? 'bad' : ''">
              {{ signed(one.value) }}
            </td>
          </tr>
        </tbody>
      </table>
    </aside>

    <div v-if="menu" class="asked-for menu stack" role="dialog" aria-label="Menu">
      <table class="lines small keys">
        <tbody>
          <tr>
            <th scope="row">A to {{ letters[letters.length - 1] ?? 'Z' }}</th>
            <td>answer, and on</td>
          </tr>
          <tr>
            <th scope="row">Shift and a letter</th>
            <td>strike an option out</td>
          </tr>
          <tr>
            <th scope="row">?</th>
            <td>between two</td>
          </tr>
          <tr>
            <th scope="row">0</th>
            <td>no idea</td>
          </tr>
          <tr>
            <th scope="row">Space</th>
            <td>leave it, and on</td>
          </tr>
          <tr>
            <th scope="row">arrows</th>
            <td>back and on</td>
          </tr>
          <tr>
            <th scope="row">a number, Enter</th>
            <td>to that item</td>
          </tr>
          <tr>
            <th scope="row">Enter</th>
            <td>{{ onPaper ? 'done, and on' : 'all items' }}</td>
          </tr>
        </tbody>
      </table>
      <v-checkbox v-model="sound" label="Sounds" density="compact" hide-details />
      <v-btn v-if="!room.setup.strict" @click="emit('stop')">Stop the clock</v-btn>
      <v-btn @click="emit('away')">Leave for now</v-btn>
      <v-btn @click="emit('finish')">End the test here</v-btn>
      <v-btn @click="emit('drop')">Throw it away</v-btn>
      <v-btn class="main" @click="menu = false">On with it</v-btn>
    </div>

    <ItemList
      v-if="listing"
      :items="items"
      :current="item?.item"
      :paper="onPaper"
      :ends="ending"
      :stages="stages"
      @go="working.go"
      @close="listing = false"
      @hand-in="working.handIn"
    />
  </div>
</template>

<style scoped>
.working {
  position: relative;
  height: 100%;
  display: grid;
  grid-template-columns: 112px minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1fr) auto;
  grid-template-areas: 'head head' 'rail middle' 'rail foot';
}
.head {
  grid-area: head;
  display: grid;
  grid-template-columns: 1fr auto 1fr auto;
  align-items: center;
  gap: 16px;
  padding: 8px 18px;
  border-bottom: 1px solid var(--ink);
}
.where {
  display: grid;
  min-width: 0;
}
.title {
  font-weight: 600;
}
.place {
  font-size: 34px;
}
.of {
  font-size: 20px;
}
.clock {
  font-size: 34px;
  justify-self: end;
  font-variant-numeric: tabular-nums;
}
.near {
  color: var(--clay-text);
}
.rail {
  grid-area: rail;
  padding: 14px 4px 10px 18px;
}
.rail.thin {
  display: none;
}
.middle {
  grid-area: middle;
  min-height: 0;
  overflow-y: auto;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  padding: 18px 22px;
  gap: 28px;
}
.beside .middle {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  overflow: hidden;
}
.stimulus,
.beside .item {
  overflow-y: auto;
  min-height: 0;
}
.stimulus {
  border-right: 1px solid var(--hair);
  padding-right: 22px;
  outline-offset: -2px;
}
.stimulus h2 {
  margin-bottom: 8px;
}
.item {
  max-width: 46em;
  padding: 0 4px 4px 0;
}
.paper .item {
  max-width: none;
}
.key {
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--hair);
  min-height: 44px;
  min-width: 48px;
  padding: 0 14px;
  cursor: pointer;
}
.key[aria-pressed='true'] {
  background: var(--ink);
  color: var(--ground);
}
.strong {
  border-color: var(--ink);
  font-weight: 600;
}
.sign {
  color: var(--ochre-text);
  font-weight: 600;
}
.key[aria-pressed='true'] .sign {
  color: inherit;
}
.foot {
  grid-area: foot;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: center;
  padding: 10px 22px;
  border-top: 1px solid var(--hair);
}
.group {
  display: flex;
  gap: 6px;
}
.moves {
  margin-left: auto;
}
.typed {
  font-size: 13px;
}
.number {
  max-width: 240px;
}
.checkpoint {
  justify-items: start;
  align-content: center;
}
.big {
  font-size: 110px;
}
.asked-for {
  position: absolute;
  z-index: 2;
  right: 18px;
  bottom: 74px;
  background: var(--paper);
  border: 1px solid var(--ink);
  padding: 14px 16px;
  min-width: 250px;
}
.menu {
  top: 62px;
  bottom: auto;
}
.keys th {
  font-weight: 600;
  color: var(--ink);
}
@media (max-width: 700px) {
  .working {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto auto minmax(0, 1fr) auto;
    grid-template-areas: 'head' 'rail' 'middle' 'foot';
  }
  .head {
    grid-template-columns: minmax(0, 1fr) auto auto auto;
    gap: 8px;
    padding: 4px 10px;
  }
  .place,
  .clock {
    font-size: 26px;
  }
  .total {
    display: none;
  }
  .of {
    font-size: 15px;
  }
  .rail {
    display: none;
  }
  .rail.thin {
    display: grid;
    padding: 4px 12px;
  }
  .middle,
  .beside .middle {
    grid-template-columns: minmax(0, 1fr);
    padding: 10px 12px;
    gap: 12px;
    overflow-y: auto;
    align-content: start;
  }
  .stimulus {
    border-right: 0;
    border-bottom: 1px solid var(--hair);
    padding: 0 0 10px;
    overflow: visible;
  }
  .beside .item {
    overflow: visible;
  }
  .foot {
    padding: 8px 12px;
    gap: 6px;
  }
  .foot .group {
    width: 100%;
  }
  .foot .key {
    flex: 1;
    min-width: 0;
    padding: 0 4px;
  }
  .paper .middle {
    align-content: end;
  }
  .asked-for {
    left: 12px;
    right: 12px;
    bottom: 130px;
  }
}
</style>
