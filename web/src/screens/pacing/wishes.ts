import { computed, type ComputedRef } from 'vue'
import type { Section, SectionPacing } from '@climber/contract'
import { noWish } from '@climber/core'
import { useWorkspace } from '../../stores/workspace'

/** The wishes of one section and how to change them. */
export function useWishes(section: ComputedRef<Section>) {
  const workspace = useWorkspace()
  const save = computed(() => workspace.saves!.pacing)
  const wish = computed<SectionPacing>(() => save.value.state.document.sections[section.value.id] ?? noWish)
  function change(edit: (wish: SectionPacing) => void): void {
    const { id } = section.value
    save.value.edit((pacing) => {
      const next = JSON.parse(JSON.stringify(pacing.sections[id] ?? noWish)) as SectionPacing
      edit(next)
      pacing.sections[id] = next
    })
  }
  /** What the schema says of a field; what does not fit the section's time is the core's to say. */
  const problemAt = (field: string): string | undefined =>
    save.value.state.problems.find((one) => one.field === `sections.${section.value.id}.${field}`)?.message
  return { save, wish, change, problemAt }
}
