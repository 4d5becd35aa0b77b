import { computed, ref } from 'vue'
import { steady } from '../manners/press'

/**
 * What a field is told of its hint: one that always shows, else one while the field is focused. That one stays until a press
 * that leaves the field has become a click, since the page moves when it goes.
 */
export function fieldHint(always: () => string | undefined, meanwhile: () => string | undefined) {
  const focused = ref(false)
  const stays = steady(() => focused.value)
  return computed(() => ({
    hint: always() ?? meanwhile(),
    persistentHint: Boolean(always()) || stays.value,
    'onUpdate:focused': (now: boolean) => {
      focused.value = now
    },
  }))
}
