import { type GradeInput, type PlanInput, testMinutes, type ToldInput } from '../src/index'

/** What a grader of plans is told, from what the planner was. */
export function gradeInputOf(plan: PlanInput): GradeInput {
  const { topics, shelf, owed } = plan
  const waiting = new Set(owed.map(({ id }) => id))
  return {
    ...plan,
    reserved: shelf.flatMap(({ form, id, reserved }) => (reserved ? [form ?? id] : [])),
    kept: plan.kept.filter(({ id }) => !waiting.has(id)),
    begun: topics.flatMap(({ id, touches }) => (touches.length ? [id] : [])),
    topics: topics.map(({ id, share, known, touches }) => ({ id, share, known, met: touches.length > 0 })),
    chapters: shelf
      .filter(({ kind }) => kind === 'book')
      .flatMap(({ id, chapters = [] }) => {
        let from = 0
        return chapters.map(({ pages, topics: own }) => {
          from += pages
          return { book: id, from: from - pages, to: from, topics: own }
        })
      }),
  }
}

/** What the words of a plan are held against, from what the planner was told. */
export const toldInputOf = (input: PlanInput): ToldInput => ({
  ...input,
  forms: input.exam.forms,
  testMinutes: testMinutes(input.exam.sections, input.settings.timeFactor),
})
