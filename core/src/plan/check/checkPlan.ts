import type { Plan } from '@climber/contract'
import { type CheckInput, factsOf, type Rule, type Violation } from './facts'
import { prerequisitesFirst } from './order'
import { inFreeTime, keptAndUnique } from './place'
import { questionsOnce, retestsWait, testsInOrder, timedSetsFit } from './tests'
import { dayCap, noOverlap, weekCaps } from './totals'

export type { CheckInput, Violation } from './facts'

const rules: Rule[] = [
  keptAndUnique,
  inFreeTime,
  noOverlap,
  dayCap,
  weekCaps,
  testsInOrder,
  retestsWait,
  timedSetsFit,
  questionsOnce,
  prerequisitesFirst,
]

/**
 * The independent checker: verifies that a plan breaks no rule of docs/models.md, 4. It shares no code with the planner, so
 * that a mistake there is not repeated here.
 */
export function checkPlan(input: CheckInput, plan: Plan): Violation[] {
  const found: Violation[] = []
  const facts = factsOf(input, plan)
  for (const rule of rules) rule(facts, (name, message) => void found.push({ rule: name, message }))
  return found
}
