import type { Counts, ExamFormat, ItemGroup } from '@climber/contract'
import { stageTaken } from '@climber/core'

export interface ItemRow {
  group: ItemGroup
  title: string
}

/**
 * One row for each item group that a candidate with these counts meets, named after its section. The second stage of an
 * adaptive section joins once the first stage is counted.
 */
export const itemRows = (exam: ExamFormat, counts: Record<string, Counts>): ItemRow[] =>
  exam.sections.flatMap((section) => {
    const stage = stageTaken(section, counts)
    const named = (groups: ItemGroup[], title: string) =>
      groups.map((group, at) => ({
        group,
        title: groups.length > 1 ? `${title}, part ${at + 1}` : title,
      }))
    return [
      ...named(section.groups, section.stages ? `${section.title}, first stage` : section.title),
      ...(stage ? named(stage.groups, stage.title) : []),
    ]
  })
