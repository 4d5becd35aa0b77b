<script setup lang="ts">
import { nextTick, onMounted, ref, watch } from 'vue'
import type { PaceCard } from '@climber/core'

/** The pace card of one section, on a quarter of a page: its type shrinks until nothing is cut. */
const props = defineProps<{ card: PaceCard; name: string; date?: string }>()
const sheet = ref<HTMLElement | null>(null)
const largest = 9.4
const smallest = 5.6
async function fit(): Promise<void> {
  await nextTick()
  const own = sheet.value
  if (!own) return
  for (let size = largest; size >= smallest; size -= 0.2) {
    own.style.setProperty('--size', `${size}pt`)
    if (own.scrollHeight <= own.clientHeight + 1 && own.scrollWidth <= own.clientWidth + 1) return
  }
}
onMounted(fit)
onMounted(() => void document.fonts.ready.then(fit))
watch(() => props.card, fit)
defineExpose({ fit })
</script>

<template>
  <article ref="sheet" class="card" :data-testid="`card-${card.section}`">
    <header>
      <h2>{{ card.title }}</h2>
      <p>
        <template v-if="card.start"
          ><b>{{ card.start }}</b> to <b>{{ card.end }}</b> · </template
        >{{ Number(card.minutes.toFixed(2)) }} min · {{ card.items }} items<template
          v-if="card.reserveMinutes"
        >
          · {{ Number(card.reserveMinutes.toFixed(2)) }} kept back</template
        ><template v-if="date"> · {{ date }}</template>
      </p>
    </header>
    <p v-if="card.problem" class="problem">{{ card.problem }}</p>
    <table v-else>
      <thead>
        <tr>
          <th>{{ card.firstTime ? 'first time, after item' : 'after item' }}</th>
          <th v-if="card.start">clock</th>
          <th>from start</th>
          <th>left</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="point in card.checkpoints" :key="point.item">
          <td>
            <b>{{ point.item }}</b>{{ point.ends ? ` end of ${point.ends}` : '' }}
          </td>
          <td v-if="card.start">
            <b>{{ point.clock }}</b>
          </td>
          <td>{{ point.at }}</td>
          <td>{{ point.left }}</td>
        </tr>
      </tbody>
    </table>
    <section v-if="card.passes.length">
      <h3>Through it</h3>
      <p v-for="rule in card.passes" :key="rule">{{ rule }}</p>
    </section>
    <section v-if="card.leave.length">
      <h3>Leaving</h3>
      <p v-for="rule in card.leave" :key="rule">{{ rule }}</p>
    </section>
    <section v-if="card.guess.length">
      <h3>Guessing</h3>
      <p v-for="rule in card.guess" :key="rule">{{ rule }}</p>
    </section>
    <footer>{{ name }}</footer>
  </article>
</template>

<style scoped>
.card {
  --size: 9.4pt;
  box-sizing: border-box;
  width: 95mm;
  height: 136mm;
  overflow: hidden;
  padding: 4mm 5mm;
  border: 0.4mm solid #000;
  background: #fff;
  color: #000;
  font-size: var(--size);
  line-height: 1.22;
  display: flex;
  flex-direction: column;
  gap: 1.6mm;
}
.card > * {
  flex: none;
}
h2 {
  font-family: var(--large);
  font-weight: 600;
  font-size: 1.7em;
  color: #000;
}
h3 {
  font-size: 0.86em;
  font-variant-caps: all-small-caps;
  letter-spacing: 0.06em;
  border-top: 0.3mm solid #000;
  padding-top: 0.6mm;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  font-weight: 400;
  font-size: 0.86em;
}
th:not(:first-child),
td:not(:first-child) {
  text-align: right;
}
td {
  border-top: 0.15mm solid #777;
  padding: 0.35mm 0;
}
b {
  font-size: 1.1em;
}
footer {
  margin-top: auto;
  font-size: 0.86em;
}
.problem {
  font-weight: 600;
}
@media screen and (max-width: 700px) {
  .card {
    width: 100%;
    height: auto;
    font-size: 16px;
    gap: 10px;
    border-width: 0 0 2px;
    padding: 12px 0 18px;
    background: none;
    color: var(--ink);
  }
  h2 {
    color: var(--ink);
  }
  h3 {
    border-color: var(--ink);
  }
  td {
    padding: 4px 0;
    border-color: var(--hair);
  }
}
</style>
