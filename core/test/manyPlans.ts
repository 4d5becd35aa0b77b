import fc from 'fast-check'
import { checkPlan, makePlan } from '../src/index'
import { inputsOf, randomPlan } from './arbitrary'

// Run by plan.test.ts as a process of its own: inside Jest's sandbox the same plans take six times as long.
const runs = Number(process.argv[2])
const seed = Number(process.argv[3])
let sessions = 0
let tests = 0
fc.assert(
  fc.property(randomPlan, (random) => {
    const { plan: input, check } = inputsOf(random)
    const plan = makePlan(input)
    sessions += plan.sessions.length
    tests += plan.sessions.filter(({ kind }) => kind === 'test').length
    const violations = checkPlan(check, plan)
    if (violations.length) throw new Error(JSON.stringify(violations.slice(0, 5)))
  }),
  { numRuns: runs, seed },
)
process.stdout.write(JSON.stringify({ runs, sessions, tests }))
