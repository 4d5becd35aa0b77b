import { makePlan, checkPlan } from '@climber/core'
import { gardenRecord, gardenExam } from '../core/test/fixture'
import { inputsOf } from '../core/test/arbitrary'
import { dateOf, dayNumber } from '@climber/core'
const on = '2031-03-03'
for (const weeks of [1, 4, 12, 26, 52, 104]) {
  const exam = {
    ...gardenExam,
    sittings: [{ ...gardenExam.sittings[0]!, date: dateOf(dayNumber(on) + weeks * 7) }],
  }
  const random = { record: gardenRecord({ exam }), minute: 420, seed: 1 }
  const times: number[] = []
  let plan
  for (let i = 0; i < 7; i++) {
    const t = performance.now()
    const { plan: input } = inputsOf(random)
    plan = makePlan(input)
    times.push(performance.now() - t)
  }
  console.log(
    weeks,
    times.map((t) => t.toFixed(1)).join(' '),
    plan!.sessions.length,
    plan!.sessions.filter((s) => s.kind === 'test').length,
    plan!.notices.map((n) => n.message).join('|'),
    checkPlan(inputsOf(random).check, plan!).length,
  )
}
