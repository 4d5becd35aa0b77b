import fc from 'fast-check'
import type { Plan } from '@climber/contract'
import {
  checkPlan,
  dateOf,
  dayNumber,
  falseWords,
  makePlan,
  mend,
  type PlanInput,
  wordsFor,
} from '../src/index'
import { inputsOf, type RandomPlan, randomPlan, today } from './arbitrary'
import { toldInputOf } from './graded'

// Run by plan.test.ts as a process of its own: inside Jest's sandbox the same plans take six times as long.
const runs = Number(process.argv[2])
const seed = Number(process.argv[3])
let sessions = 0
let tests = 0
let mended = 0
let moved = 0
let remedied = 0
let explained = 0

/** Every explanation of a plan is so. */
function wordsAreTrue(input: PlanInput, plan: Plan, what: string): void {
  const { why } = wordsFor({ ...input, forms: input.exam.forms })
  const wrong = falseWords(toldInputOf(input), plan, (session) => {
    explained++
    return why(session)
  })
  if (wrong.length) throw new Error(`${what}, not so: ${JSON.stringify(wrong.slice(0, 4))}`)
}

/** A week into the plan: all done but for yesterday, which fell through; mended, it must break no rule either. */
function fallThrough(random: RandomPlan, plan: Plan): void {
  const on = dateOf(dayNumber(today) + 3 + (random.seed % 9))
  if (on >= random.record.exam.sittings[0]!.date) return
  const yesterday = dateOf(dayNumber(on) - 1)
  const lived = plan.sessions.map((session) =>
    session.date < yesterday && session.status === 'planned'
      ? { ...session, status: 'done' as const }
      : session,
  )
  const record = { ...random.record, plan: { ...plan, sessions: lived } }
  if (random.seed % 3 === 0) {
    const off = dateOf(dayNumber(on) + (random.seed % 6))
    record.availability = {
      ...record.availability,
      daysOff: [...new Set([...record.availability.daysOff, off])],
    }
  }
  const { plan: input, check } = inputsOf({ ...random, record }, on)
  const { plan: after, diff } = mend(input, record.plan)
  remedied += diff.added.filter((one) => 'remedy' in one && one.remedy).length
  const replaced = new Set(diff.moved.map(({ after: { id } }) => id))
  const stood = new Set(input.kept.filter(({ id }) => !replaced.has(id)).map(({ id }) => id))
  const kept = after.sessions.filter(({ id, status }) => status !== 'planned' || stood.has(id))
  const violations = checkPlan({ ...check, kept }, after)
  if (violations.length) throw new Error(`mended on ${on}: ${JSON.stringify(violations.slice(0, 5))}`)
  wordsAreTrue(input, after, `mended on ${on}`)
  mended++
  moved += diff.moved.length
}

fc.assert(
  fc.property(randomPlan, (random) => {
    // Every other plan is made before the review, whose remedies the mended one takes in.
    const before = random.seed % 4 < 2 ? random : { ...random, record: { ...random.record, review: [] } }
    const { plan: input, check } = inputsOf(before)
    const plan = makePlan(input)
    sessions += plan.sessions.length
    remedied += plan.sessions.filter((one) => 'remedy' in one && one.remedy).length
    tests += plan.sessions.filter(({ kind }) => kind === 'test').length
    const violations = checkPlan(check, plan)
    if (violations.length) throw new Error(JSON.stringify(violations.slice(0, 5)))
    wordsAreTrue(input, plan, 'made')
    if (random.seed % 2) fallThrough(random, plan)
  }),
  { numRuns: runs, seed, ...(process.env.FCPATH ? { path: process.env.FCPATH, endOnFailure: true } : {}) },
)
process.stdout.write(JSON.stringify({ runs, sessions, tests, mended, moved, remedied, explained }))
