import { computed, type Ref } from 'vue'
import { useRouter } from 'vue-router'
import { cardFromItem, loosenedItem, type ReviewItem } from '@climber/core'
import type { FormItem, Stimulus } from '@climber/contract'
import { useRecall } from '../../stores/recall'
import { useWorkspace } from '../../stores/workspace'
import { keepDraft } from '../recall/draft'
import { usePlaceOf } from './place'

/** A card of the item that is reviewed, by one press; a numeric one whose text has numbers becomes a question that wants its formula. */
export function useCardOf(
  item: Ref<ReviewItem | undefined>,
  text: Ref<FormItem | undefined>,
  stimulus: Ref<Stimulus | undefined>,
  title: () => string,
) {
  const workspace = useWorkspace()
  const recall = useRecall()
  const router = useRouter()
  const placeOf = usePlaceOf()
  /** The card that was made of it. */
  const made = computed(() => {
    const { attempt, item: number } = item.value ?? {}
    return [...recall.cards.values()].find(({ of }) => of && of.attempt === attempt && of.item === number)
  })
  const loose = computed(() => (item.value?.kind === 'numeric' ? loosenedItem(text.value?.text) : undefined))
  async function make(): Promise<void> {
    const own = item.value
    if (!own || made.value) return
    const { attempt, item: number, topic, kind, key, note } = own
    const place = placeOf(topic)
    if (loose.value) {
      keepDraft(workspace.candidate!.id, {
        kind: 'numbers',
        topic: topic ?? '',
        front: loose.value.text,
        numbers: loose.value.numbers,
        worked: key && `With the numbers of the test it came to ${key}.`,
        kept: { of: { attempt, item: number } },
      })
      await router.push({ name: 'recall', query: { part: 'cards', card: 'new' } })
      return
    }
    const card = cardFromItem({
      attempt,
      item: number,
      kind,
      key,
      title: `Item ${number} of ${title()}`,
      ...(topic !== undefined && { topic }),
      ...(text.value && { text: text.value }),
      ...(stimulus.value && { stimulus: stimulus.value }),
      ...(place && { place }),
      ...(note?.next !== undefined && { next: note.next }),
    })
    await recall.saveCard(
      { ...card, id: crypto.randomUUID(), added: workspace.today },
      `A card of item ${number}`,
    )
  }
  return { made, loose, make }
}
