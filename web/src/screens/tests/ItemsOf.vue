<script setup lang="ts">
import type { ReadItem } from '@climber/core'
import { spanWords } from '../../manners/words'
import WhereFrom from '../../widgets/WhereFrom.vue'

/** How many items, opening to which. */
defineProps<{ label: string; items: readonly ReadItem[]; titleOf?: (test: string) => string }>()
</script>

<template>
  <WhereFrom v-if="items.length" :label="label">
    <template #figure>{{ items.length }}</template>
    <table class="lines small">
      <tbody>
        <tr v-for="(one, at) in items" :key="at">
          <th scope="row">
            Item {{ one.item }}
            <div v-if="titleOf" class="soft">{{ titleOf(one.test ?? '') }}</div>
          </th>
          <td>
            {{ one.changes.length > 1 ? one.changes.filter(Boolean).join(' → ') : one.answer || 'blank' }}
          </td>
          <td>key {{ one.key || '?' }}</td>
          <td class="n">
            {{ one.seconds === undefined ? '' : `${spanWords(one.seconds)} of ${spanWords(one.budget)}` }}
          </td>
        </tr>
      </tbody>
    </table>
  </WhereFrom>
  <template v-else>0</template>
</template>
