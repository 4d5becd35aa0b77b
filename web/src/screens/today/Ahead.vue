<script setup lang="ts">
import { computed } from 'vue'
import type { StoredSession } from '@climber/contract'
import { materialOf } from '@climber/core'
import { kindWord } from '../../manners/kinds'
import { outlookOn } from '../../manners/outlook'
import { dateWords, distanceWords, durationWords } from '../../manners/words'
import { useWorkspace } from '../../stores/workspace'

/** What comes after the session that is next, and the next test with the score to expect. */
const props = defineProps<{ sessions: StoredSession[] }>()
const workspace = useWorkspace()
const soon = computed(() => props.sessions.slice(0, 5))
const test = computed(() => props.sessions.find(({ kind }) => kind === 'test'))
const expected = computed(() => {
  const { overview } = workspace
  return test.value && overview ? outlookOn(overview.outlook, test.value.date) : undefined
})
</script>

<template>
  <section v-if="test" class="stack" aria-label="The next test">
    <h2>The next test</h2>
    <p class="test">
      {{ workspace.titleOf(test) }}, <strong>{{ dateWords(test.date, workspace.today) }}</strong> at
      {{ test.start }}, {{ distanceWords(test.date, workspace.today)
      }}<template v-if="expected">
        · expect <strong>{{ Math.round(expected.mean) }}</strong>, 8 times in 10 between
        {{ Math.round(expected.low) }} and {{ Math.round(expected.high) }}</template
      >.
    </p>
  </section>
  <section v-if="soon.length" class="stack" aria-label="Then">
    <h2>Then</h2>
    <ul>
      <li v-for="session in soon" :key="session.id">
        <span class="soft when">{{ dateWords(session.date, workspace.today) }}, {{ session.start }}</span>
        <span class="kind tag" :class="`kind-${session.kind}`"
          ><span class="word">{{ kindWord(session) }}</span></span
        >
        <span class="what"
          >{{ workspace.titleOf(session) }}
          <span v-if="materialOf(session)" class="small soft">{{ materialOf(session)!.text }}</span></span
        >
        <span class="n">{{ durationWords(session.minutes) }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 132px 84px 1fr auto;
  gap: 2px 12px;
  align-items: baseline;
  padding: 5px 0;
  border-bottom: 1px solid var(--hair);
}
.tag {
  justify-self: start;
  padding: 0 8px;
  font-size: 13px;
}
.n {
  font-variant-numeric: tabular-nums;
}
@media (max-width: 700px) {
  /* Room for the score, which comes a little later. */
  .test {
    min-height: 4.3em;
  }
  li {
    grid-template-columns: 1fr auto;
  }
  .what {
    grid-row: 2;
    grid-column: 1;
  }
  .n {
    grid-row: 2;
  }
  .tag {
    justify-self: end;
  }
}
</style>
