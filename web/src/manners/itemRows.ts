import type { ExamFormat, ItemGroup } from '@climber/contract'

/** One row for each item group of an exam, named after its section. */
export const itemRows = (exam: ExamFormat): { group: ItemGroup; title: string }[] =>
  exam.sections.flatMap((section) =>
    section.groups.map((group, at) => ({
      group,
      title: section.groups.length > 1 ? `${section.title}, part ${at + 1}` : section.title,
    })),
  )
